package web

import (
	"context"
	"net/http"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"amberseal/app/access"
	"amberseal/app/register"
	"amberseal/web/api"
)

// need lets past who may do what the operation needs, where it needs it, as openapi.yaml names both. An operation that names nothing
// is for nobody.
func (d *handlers) need(c *gin.Context) {
	at := c.FullPath()
	if !strings.HasPrefix(at, "/api/") { // pages and files have no permissions; what is personal in them is asked for by token
		return
	}
	needs := api.Permissions[c.Request.Method+" "+at]
	if needs.Permission == string(access.Public) {
		return
	}
	d.admit(c, access.Permission(needs.Permission), access.About(needs.About))
}

// admit lets past who may do something there.
func (d *handlers) admit(c *gin.Context, needs access.Permission, about access.About) {
	p, err := d.person(c.Request.Context())
	if err != nil {
		d.fail(c, err)
		return
	}
	if p.ID == 0 {
		problem(c, pSignIn, http.StatusUnauthorized, "Sign in first.")
		return
	}
	who := p.Who()
	c.Set(whoKey, who)
	if needs == access.Self {
		return
	}
	may, seen := who.May(needs), true
	switch about {
	case access.AboutSeveral:
		may = needs == access.Look || !who.Scope(needs).Empty()
	case access.AboutIntake, access.AboutSubmission, access.AboutUpload:
		if may {
			break // whether it is there at all, the operation says
		}
		id, err := d.about(c, about)
		if err != nil {
			d.fail(c, err)
			return
		}
		may, seen = who.MayOn(needs, id), who.Sees(id)
	}
	switch {
	case !seen:
		d.fail(c, register.NotFound)
	case !may:
		problem(c, pRole, http.StatusForbidden, "Your role in this house, "+string(p.Role)+", does not allow that. Ask its owner.")
	}
}

// about is the intake that a request is about.
func (d *handlers) about(c *gin.Context, about access.About) (int64, error) {
	if about == access.AboutUpload {
		return d.Records.IntakeOfUpload(c.Request.Context(), c.Param("id"))
	}
	id, err := strconv.ParseInt(c.Param("id"), 10, 64)
	switch {
	case err != nil:
		return 0, register.NotFound
	case about == access.AboutSubmission:
		return d.Records.IntakeOf(c.Request.Context(), id)
	}
	return id, nil
}

const whoKey = "who"

// whoIs is who asks, as need found out.
func whoIs(ctx context.Context) access.Who {
	who, _ := ctx.Value(whoKey).(access.Who)
	return who
}

// unnamed are the routes of the interface that openapi.yaml gives no permission.
func unnamed(routes gin.RoutesInfo) (out []string) {
	for _, r := range routes {
		if at := r.Method + " " + r.Path; strings.HasPrefix(r.Path, "/api/") && api.Permissions[at].Permission == "" {
			out = append(out, at)
		}
	}
	return out
}
