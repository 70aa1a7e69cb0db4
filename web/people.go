package web

import (
	"context"
	"maps"
	"slices"

	"amberseal/app/access"
	"amberseal/app/people"
	"amberseal/app/register"
	"amberseal/web/api"
)

func (d *handlers) ListPeople(ctx context.Context, r api.ListPeopleRequestObject) (api.ListPeopleResponseObject, error) {
	var after people.Person
	if err := readCursor("people", r.Params.Cursor, &after.Name, &after.ID); err != nil {
		return nil, err
	}
	all, err := d.People.Store.People(ctx, after, intakesPage+1)
	if err != nil {
		return nil, err
	}
	all, next := pageOf("people", all, intakesPage, func(p people.Person) []any { return []any{p.Name, p.ID} })
	self, err := d.person(ctx)
	out := api.ListPeople200JSONResponse{Entries: []api.Person{}, Next: next}
	for _, p := range all {
		out.Entries = append(out.Entries, d.personOf(p, self.ID))
	}
	return out, err
}

// ListColleagues gives those who have come in: whom notices can go to.
func (d *handlers) ListColleagues(ctx context.Context, _ api.ListColleaguesRequestObject) (api.ListColleaguesResponseObject, error) {
	out := api.ListColleagues200JSONResponse{}
	for after := (people.Person{}); ; {
		page, err := d.People.Store.People(ctx, after, intakesPage)
		if err != nil || len(page) == 0 {
			return out, err
		}
		for _, p := range page {
			if p.Signed {
				out = append(out, api.Colleague{Name: p.Name, Email: p.Email})
			}
		}
		after = page[len(page)-1]
	}
}

// personOf is somebody as an owner of the house sees them.
func (d *handlers) personOf(p people.Person, self int64) api.Person {
	out := api.Person{
		Id: p.ID, Email: p.Email, Name: p.Name, Role: api.Role(p.Role), Intakes: []api.IntakeRole{}, Self: p.ID == self,
		State: api.Active, Reason: optional(p.Reason),
	}
	for _, id := range slices.Sorted(maps.Keys(p.Intakes)) {
		out.Intakes = append(out.Intakes, api.IntakeRole{Intake: id, Role: api.IntakeRoleRole(p.Intakes[id])})
	}
	switch {
	case p.Signed:
	case d.Now().After(p.Invited.Add(people.LinkLasts)):
		out.State = api.Lapsed
	default:
		out.State = api.Invited
	}
	letters := map[register.State]api.PersonLetter{
		register.Waits: api.PersonLetterWaits, register.Ready: api.PersonLetterWaits, register.Working: api.PersonLetterWaits,
		register.Done: api.PersonLetterSent, register.Failed: api.PersonLetterFailed,
	}
	if l, ok := letters[p.Letter]; ok {
		out.Letter = &l
	}
	if !p.Invited.IsZero() {
		out.Invited = &p.Invited
	}
	if !p.Seen.IsZero() {
		out.Seen = &p.Seen
	}
	return out
}

// entered is somebody as an owner wrote them down.
func entered(e api.PersonEntry) people.Person {
	p := people.Person{Name: e.Name, Role: access.Role(e.Role), Intakes: map[int64]access.Role{}}
	for _, x := range e.Intakes {
		p.Intakes[x.Intake] = access.Role(x.Role)
	}
	return p
}

func (d *handlers) InvitePerson(ctx context.Context, r api.InvitePersonRequestObject) (api.InvitePersonResponseObject, error) {
	p := entered(r.Body.Entry)
	p.Email = r.Body.Email
	id, err := d.People.Invite(ctx, p)
	if err != nil {
		return nil, err
	}
	d.Hub.Changed()
	p, err = d.People.Store.Person(ctx, id)
	return api.InvitePerson201JSONResponse(d.personOf(p, 0)), err
}

func (d *handlers) SetPerson(ctx context.Context, r api.SetPersonRequestObject) (api.SetPersonResponseObject, error) {
	p := entered(*r.Body)
	p.ID = r.Id
	if err := d.People.Set(ctx, p); err != nil {
		return nil, err
	}
	d.Hub.Changed()
	self, err := d.person(ctx)
	if err != nil {
		return nil, err
	}
	p, err = d.People.Store.Person(ctx, r.Id)
	return api.SetPerson200JSONResponse(d.personOf(p, self.ID)), err
}

func (d *handlers) RemovePerson(ctx context.Context, r api.RemovePersonRequestObject) (api.RemovePersonResponseObject, error) {
	err := d.People.Store.RemovePerson(ctx, r.Id, d.Now())
	d.Hub.Changed()
	return api.RemovePerson204Response{}, err
}

func (d *handlers) ReinvitePerson(ctx context.Context, r api.ReinvitePersonRequestObject) (api.ReinvitePersonResponseObject, error) {
	err := d.People.Reinvite(ctx, r.Id)
	d.Hub.Changed()
	return api.ReinvitePerson204Response{}, err
}

func (d *handlers) EndSessions(ctx context.Context, r api.EndSessionsRequestObject) (api.EndSessionsResponseObject, error) {
	_, err := d.People.Store.EndSessions(ctx, r.Id)
	return api.EndSessions204Response{}, err
}

func (d *handlers) EndOtherSessions(ctx context.Context, _ api.EndOtherSessionsRequestObject) (api.EndOtherSessionsResponseObject, error) {
	p, err := d.person(ctx)
	if err != nil {
		return nil, err
	}
	p.Generation, err = d.People.Store.EndSessions(ctx, p.ID)
	if err == nil {
		err = d.begin(ctx, p)
	}
	return api.EndOtherSessions204Response{}, err
}

func (d *handlers) ChangePassword(ctx context.Context, r api.ChangePasswordRequestObject) (api.ChangePasswordResponseObject, error) {
	p, err := d.person(ctx)
	if err != nil {
		return nil, err
	}
	// Guessing the present password of somebody who left their session open is slowed like guessing at the door.
	from := d.client(request(ctx))
	if !d.brakes.signingIn.take(from) {
		return nil, tooMany
	}
	if p.Generation, err = d.People.ChangePassword(ctx, p.ID, r.Body.Present, r.Body.Next); err != nil {
		return nil, err
	}
	d.brakes.signingIn.giveBack(from)
	return api.ChangePassword204Response{}, d.begin(ctx, p)
}

func (d *handlers) GetWelcome(ctx context.Context, r api.GetWelcomeRequestObject) (api.GetWelcomeResponseObject, error) {
	p, err := d.People.Held(ctx, r.Token)
	if err != nil {
		return nil, err
	}
	h, err := d.Office.Store.House(ctx)
	return api.GetWelcome200JSONResponse{Name: p.Name, Email: p.Email, House: h.Name}, err
}

func (d *handlers) TakePassword(ctx context.Context, r api.TakePasswordRequestObject) (api.TakePasswordResponseObject, error) {
	p, err := d.People.Welcome(ctx, r.Token, r.Body.Password)
	if err == nil {
		err = d.begin(ctx, p)
	}
	if err != nil {
		return nil, err
	}
	s, err := d.session(ctx)
	return api.TakePassword200JSONResponse(s), err
}
