package web

import (
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"strings"
	"syscall"

	"github.com/gin-gonic/gin"

	"amberseal/app/people"
	"amberseal/app/produce"
	"amberseal/app/receive"
	"amberseal/app/register"
	"amberseal/app/safe"
	"amberseal/app/upload"
	"amberseal/app/workshop"
	"amberseal/core/intake"
	"amberseal/web/api"
)

// problemType is a sort of problem, by which programs tell them apart; words are for people.
type problemType string

// The sorts of problems. Their names never change.
const (
	pUnread     problemType = "unread"     // the request is not what the operation takes
	pSignIn     problemType = "sign-in"    // nobody is signed in
	pRole       problemType = "role"       // the role does not allow it
	pElsewhere  problemType = "elsewhere"  // another site's page asks
	pPassword   problemType = "password"   // the address or password is not right
	pNothing    problemType = "nothing"    // there is no such thing
	pTooLarge   problemType = "too-large"  // more bytes than are taken
	pTooMany    problemType = "too-many"   // too often
	pBusy       problemType = "busy"       // too many at this moment
	pFull       problemType = "full-disk"  // nothing can be taken in
	pMistake    problemType = "mistake"    // of the program
	pInvalid    problemType = "answers"    // answers with findings
	pFaulty     problemType = "faults"     // a design with findings
	pEntries    problemType = "entries"    // entries of the house with findings
	pUnfit      problemType = "unfit"      // a file or words that cannot be used
	pStamp      problemType = "stamp"      // the page lay open too long, or a program sends it
	pOtherBody  problemType = "other-body" // the Idempotency-Key was used with other answers
	pStale      problemType = "stale"      // somebody else has changed it
	pAddress    problemType = "address"    // another intake has the address
	pClosed     problemType = "closed"
	pPaused     problemType = "paused"
	pEarly      problemType = "early"
	pEnough     problemType = "enough" // the form has taken all the answers it can
	pInvitation problemType = "invitation"
	pUsed       problemType = "invitation-used"
	pChanged    problemType = "changed" // the form has, since the page was opened
	pCorrected  problemType = "corrected"
	pNoChange   problemType = "no-correction"
	pNoReminder problemType = "no-reminder"
	pTaken      problemType = "person"     // somebody of the address works here
	pLastOwner  problemType = "last-owner" // the house would be without one
	pLink       problemType = "link"       // it opens nothing more
	pCursor     problemType = "cursor"     // no page of this list gave it
	pNoSite     problemType = "no-site"    // the house does not say where its pages are
)

// titles say of each sort what it is, the same each time (RFC 9457, section 3.1.2).
var titles = map[problemType]string{
	pUnread: "The request cannot be read", pSignIn: "Nobody is signed in", pRole: "The role does not allow it",
	pElsewhere: "Another site asks", pPassword: "Not signed in",
	pNothing: "Not there", pTooLarge: "Too large", pTooMany: "Too often", pBusy: "Busy", pFull: "The disk is full",
	pMistake: "A mistake of the program",
	pInvalid: "Answers need another look", pFaulty: "The design has faults", pEntries: "Entries need another look",
	pUnfit: "It cannot be used",
	pStamp: "The page is too old", pOtherBody: "The key was used before", pStale: "Somebody else has changed it",
	pAddress: "The address is taken",
	pClosed:  "The form is closed", pPaused: "The form is paused", pEarly: "The form is not open yet", pEnough: "The form is full",
	pInvitation: "By invitation", pUsed: "The invitation was used", pChanged: "The form has changed", pCorrected: "Corrected often enough",
	pNoChange: "It cannot be corrected", pNoReminder: "It reminds nobody",
	pTaken: "Somebody of this address works here", pLastOwner: "The last owner",
	pLink: "The link opens nothing more", pCursor: "The cursor is from elsewhere", pNoSite: "The house does not say where its pages are",
}

// problemOf is a problem (RFC 9457) with its findings. Its type is a tag (RFC 4151): a name, and not a page.
func problemOf(t problemType, status int, detail string, findings ...api.PathFinding) api.Problem {
	p := api.Problem{Type: "tag:amberseal.example,2026:problem/" + string(t), Title: titles[t], Status: status, Detail: detail}
	if findings != nil {
		p.Findings = &findings
	}
	return p
}

const problemMedia = "application/problem+json"

func problem(c *gin.Context, t problemType, status int, detail string, findings ...api.PathFinding) {
	c.Header("Content-Type", problemMedia)
	c.AbortWithStatusJSON(status, problemOf(t, status, detail, findings...))
}

func badRequest(c *gin.Context, err error) {
	var large *http.MaxBytesError
	if errors.As(err, &large) {
		problem(c, pTooLarge, http.StatusRequestEntityTooLarge, "That is too large: at most "+size(large.Limit)+" can be sent at once.")
		return
	}
	var kind *json.UnmarshalTypeError
	var syntax *json.SyntaxError
	var misread intake.Misread
	said := "something in it is missing or cannot be read"
	switch {
	case errors.As(err, &misread):
		said = strings.TrimSpace(misread.Path + " " + misread.Message)
	case errors.As(err, &kind) && kind.Field != "":
		said = "“" + kind.Field + "” cannot be a " + kind.Value
	case errors.As(err, &kind):
		said = "it cannot be a " + kind.Value
	case strings.HasPrefix(err.Error(), "json: unknown field "):
		said = "it has no member " + strings.TrimPrefix(err.Error(), "json: unknown field ")
	case errors.As(err, &syntax):
		said = fmt.Sprintf("it is no JSON at byte %d", syntax.Offset)
	}
	problem(c, pUnread, http.StatusBadRequest, "The request could not be read: "+said+".")
}

// unavailable is the answer while the house cannot take or give anything.
func unavailable(w http.ResponseWriter, err error) {
	kind, said := pBusy, "The house cannot do this at the moment. Please try again in a minute."
	if fullDisk(err) {
		kind, said = pFull, "The house’s disk is full, so that nothing can be taken in. Please try again later."
	}
	w.Header().Set("Retry-After", "30")
	refuse(w, kind, http.StatusServiceUnavailable, said)
}

// refuse answers with a problem where there is no gin.
func refuse(w http.ResponseWriter, t problemType, status int, detail string) {
	w.Header().Set("Content-Type", problemMedia)
	w.WriteHeader(status)
	json.NewEncoder(w).Encode(problemOf(t, status, detail)) // whoever has gone need not know
}

// fullDisk recognises SQLITE_FULL and the system's own word for it.
func fullDisk(err error) bool {
	return errors.Is(err, register.ErrUnwritable) || errors.Is(err, syscall.ENOSPC) ||
		strings.Contains(err.Error(), "database or disk is full") ||
		strings.Contains(err.Error(), "disk I/O error")
}

// conflicts are refusals for how things stand at present.
var conflicts = []struct {
	err  error
	kind problemType
}{
	{receive.ErrClosed, pClosed}, {receive.ErrEarly, pEarly}, {receive.ErrFull, pEnough}, {receive.ErrInvitation, pInvitation},
	{receive.ErrInvitationUsed, pUsed}, {receive.ErrPaused, pPaused}, {receive.ErrChanged, pChanged}, {receive.ErrCorrections, pCorrected},
	{receive.ErrNoCorrection, pNoChange}, {receive.ErrNoReminder, pNoReminder},
	{workshop.ErrStale, pStale}, {workshop.ErrSlugTaken, pAddress},
	{people.ErrTaken, pTaken}, {people.ErrLastOwner, pLastOwner}, {people.ErrLink, pLink}, {people.ErrNoSite, pNoSite},
}

// fail turns an error of a use case into an answer.
func (d *handlers) fail(c *gin.Context, err error) {
	for _, x := range conflicts {
		if errors.Is(err, x.err) {
			problem(c, x.kind, http.StatusConflict, sentence(err))
			return
		}
	}
	var invalid receive.Invalid
	var faulty workshop.Faulty
	var unreadable workshop.Unreadable
	var refused upload.Refused
	var faultyEntries entries
	const unfit = http.StatusUnprocessableEntity
	switch {
	case errors.As(err, &invalid):
		problem(c, pInvalid, unfit, "Some answers need another look.", pathFindings(invalid.Findings)...)
	case errors.Is(err, errCursor):
		problem(c, pCursor, unfit, sentence(err))
	case errors.As(err, &faulty):
		problem(c, pFaulty, unfit, "The intake has faults to mend before it can be opened.", pathFindings(faulty.Findings)...)
	case errors.As(err, &faultyEntries):
		problem(c, pEntries, unfit, "Some entries need another look.", pathFindings(faultyEntries.List)...)
	case errors.Is(err, safe.ErrNoKey):
		problem(c, pUnfit, unfit, sentence(err))
	case errors.Is(err, register.NotFound):
		problem(c, pNothing, http.StatusNotFound, "There is nothing at this address.")
	case errors.Is(err, receive.ErrBusy), errors.Is(err, upload.ErrBusy), errors.Is(err, people.ErrBusy), errors.Is(err, produce.ErrBusy):
		c.Header("Retry-After", "2")
		problem(c, pBusy, http.StatusServiceUnavailable, sentence(err))
	case errors.Is(err, tooMany), errors.Is(err, receive.ErrReminders):
		c.Header("Retry-After", "60")
		problem(c, pTooMany, http.StatusTooManyRequests, sentence(err))
	case errors.Is(err, receive.ErrOtherBody):
		problem(c, pOtherBody, unfit, sentence(err), api.PathFinding{Path: "Idempotency-Key", Message: sentence(err)})
	case errors.As(err, &unreadable):
		problem(c, pUnfit, unfit, unreadable.Reason)
	case errors.As(err, &refused):
		problem(c, pUnfit, unfit, refused.Reason)
	case errors.As(err, new(staleStamp)):
		problem(c, pStamp, unfit, sentence(err), api.PathFinding{Path: "page/stamp", Message: sentence(err)})
	case errors.As(err, new(receive.UnreadableCopy)), errors.As(err, new(unprocessable)), errors.As(err, new(people.Unfit)):
		problem(c, pUnfit, unfit, sentence(err))
	case c.Request.Context().Err() != nil:
		c.Abort()
	case fullDisk(err):
		d.Log.Error("the disk is full", "error", err)
		c.Abort()
		unavailable(c.Writer, err)
	default:
		d.Log.Error("a request failed", "path", masked(c.Request.URL.Path), "error", err)
		problem(c, pMistake, http.StatusInternalServerError, "The program could not do this. The reason is written down in the log.")
	}
}
