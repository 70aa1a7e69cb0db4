package main

import (
	"fmt"
	"strings"
	"testing"
)

// outside calls what is about services outside, messages and filed files.
func outside(v *visitor) {
	v.well("GET", "/api/colleagues", nil, nil)
	v.well("GET", "/api/destinations", nil, nil)
	v.well("PUT", "/api/destinations/more", object{"destination": object{"key": "more", "name": "More", "kind": "folder",
		"folder": v.t.TempDir()}}, nil)
	v.well("POST", "/api/destinations/more/trial", nil, nil)
	v.refused(422, "PUT", "/api/destinations/more", object{"destination": object{"key": "more", "name": "", "kind": "share"}})
	v.refused(404, "POST", "/api/destinations/none/trial", nil)
	v.well("DELETE", "/api/destinations/more", nil, nil)
	v.refused(404, "DELETE", "/api/destinations/more", nil)
	account := object{"key": "more", "name": "More", "host": "127.0.0.1", "port": 1, "protection": "none"}
	v.well("PUT", "/api/accounts/more", object{"account": account, "secret": "x"}, nil)
	v.well("GET", "/api/accounts", nil, nil)
	v.well("POST", "/api/accounts/more/trial", object{"to": "a@b.example"}, nil)
	v.refused(422, "POST", "/api/accounts/more/trial", object{"to": "nobody"})
	account["host"] = "mail.house.example"
	v.refused(422, "PUT", "/api/accounts/more", object{"account": account})
	v.well("DELETE", "/api/accounts/more", nil, nil)
	v.refused(404, "DELETE", "/api/accounts/more", nil)

	var filed struct {
		Entries []struct{ ID, SubmissionID int }
	}
	v.well("GET", "/api/filings", nil, &filed)
	v.well("GET", "/api/filings?amiss=true", nil, nil)
	v.well("GET", "/api/filings?destination=cabinet&folder=Hire%2F2026&here=true", nil, nil)
	v.well("GET", "/api/filings/folders", nil, nil)
	v.well("GET", "/api/filings/folders?destination=cabinet&folder=Hire", nil, nil)
	v.well("POST", "/api/filings/compare", nil, nil)
	v.well("GET", "/api/intakes/1/registers", nil, nil)
	var i struct{ Design map[string]any }
	v.well("GET", "/api/intakes/1", nil, &i)
	v.well("POST", "/api/proofs/notice/letter", object{"design": i.Design, "key": "staff", "answers": "made-up"}, nil)
	at := fmt.Sprintf("/api/submissions/%d/filings/%d", filed.Entries[0].SubmissionID, filed.Entries[0].ID)
	v.well("GET", at+"/file", nil, nil)
	v.well("POST", at+"/check", nil, nil)
	v.well("POST", at+"/putback", nil, nil)
	v.refused(404, "POST", "/api/submissions/1/filings/99999/check", nil)
	var sent struct {
		Entries []struct{ ID, SubmissionID int }
	}
	v.well("GET", "/api/messages?words=PR", nil, &sent)
	again := fmt.Sprintf("/api/submissions/%d/messages/%d/again", sent.Entries[0].SubmissionID, sent.Entries[0].ID)
	v.well("POST", again, object{"to": []string{"other@one.example"}}, nil)
	v.refused(422, "POST", again, object{"to": []string{"nobody"}})
	v.refused(404, "POST", "/api/submissions/1/messages/99999/again", object{})
	v.well("GET", strings.TrimSuffix(again, "again")+"source", nil, nil)
	v.refused(404, "GET", "/api/submissions/1/messages/99999/source", nil)
	v.refused(422, "POST", "/api/bounces", []byte("Subject: On holiday\r\n\r\nBack soon.\r\n"))
	v.well("PUT", "/api/holds/house", object{"held": true}, nil)
	v.well("PUT", "/api/intakes/1/hold", object{"held": true}, nil)
	v.well("GET", "/api/holds", nil, nil)
	v.well("PUT", "/api/intakes/1/hold", object{"held": false}, nil)
	v.well("PUT", "/api/holds/house", object{"held": false}, nil)
	var waiting struct {
		Entries []struct {
			Step, SubmissionID int
			State              string
		}
	}
	v.well("GET", "/api/messages/waiting", nil, &waiting)
	for _, w := range waiting.Entries {
		if w.State == "failed" {
			v.well("POST", fmt.Sprintf("/api/submissions/%d/steps/%d/stop", w.SubmissionID, w.Step), nil, nil)
		}
	}
	v.refused(404, "POST", "/api/submissions/1/steps/99999/stop", nil)
	v.refused(404, "DELETE", "/api/submissions/1/handed/99999", nil)
	var gifts struct{ Entries []struct{ ID int } }
	v.well("GET", "/api/submissions?words=GI", nil, &gifts)
	for _, g := range gifts.Entries {
		var s struct {
			Handed []struct{ ID int }
		}
		of := fmt.Sprintf("/api/submissions/%d", g.ID)
		v.well("GET", of, nil, &s)
		for _, x := range s.Handed {
			v.well("DELETE", fmt.Sprintf("%s/handed/%d", of, x.ID), nil, nil)
		}
	}
}

// keeps calls what is about answers that are kept, and being reminded of them.
func keeps(v *visitor, public string) {
	var kept struct{ Token string }
	v.well("POST", public+"/drafts", object{"answers": object{"name": "Half"}}, &kept)
	v.well("GET", public+"/drafts/"+kept.Token, nil, nil)
	v.refused(404, "GET", public+"/drafts/none", nil)
	v.well("PUT", public+"/drafts/"+kept.Token+"/reminder", object{"email": "half@one.example", "days": 3, "language": "de"}, nil)
	v.refused(422, "PUT", public+"/drafts/"+kept.Token+"/reminder", object{"email": "half", "days": 3})
	v.refused(404, "PUT", public+"/drafts/none/reminder", object{"email": "half@one.example", "days": 3})
	v.refused(409, "PUT", "/api/public/intakes/gift/drafts/"+kept.Token+"/reminder", object{"email": "half@one.example", "days": 3})
}

// asksAfter sends what a page that lost the answer asks after, and wakes a house that does not rest.
func asksAfter(t *testing.T, h *running, v *visitor, public string) {
	t.Helper()
	once := strings.Repeat("described-", 4)
	if status, answer := h.try("POST", public+"/submissions", bookingBody("once@one.example"), "Idempotency-Key", once); status != 201 {
		t.Fatalf("%d %s", status, answer)
	}
	v.well("GET", public+"/sendings/"+once, nil, nil)
	v.refused(404, "GET", public+"/sendings/"+strings.Repeat("never-", 6), nil)
	v.refused(404, "DELETE", "/api/house/rest", object{"skip": 0}) // it does not rest
	v.refused(422, "DELETE", "/api/house/rest", object{"skip": -1})
}
