package intake

import "amberseal/core/words/finding"

// coming finds words of the format that stand in it already and that this program cannot do yet: a design that has them must not run as
// if they were done.
func (d Design) coming() finding.List {
	var l finding.List
	say := func(used bool, place, message string) {
		if used {
			l.Fault(place, message, "Take it out; a later version of this program will do it.")
		}
	}
	for _, x := range d.Documents {
		at := "documents/" + x.Key
		say(x.Brought != nil, at+"/brought", "Files that are brought cannot be filled yet.")
		say(len(x.Signers) > 0, at+"/signers", "Documents cannot be signed by others yet.")
	}
	for _, x := range d.Notices {
		at := "notices/" + x.Key
		say(len(x.Copy) > 0, at+"/copy", "Copies cannot be sent yet.")
		say(len(x.BlindCopy) > 0, at+"/blindCopy", "Blind copies cannot be sent yet.")
		say(len(x.ReplyTo) > 0, at+"/replyTo", "An address for replies cannot be given yet.")
		say(len(x.SenderName) > 0, at+"/senderName", "A sender’s name cannot be given yet.")
		say(x.Language != "", at+"/language", "A notice cannot be sent in a language of its own yet.")
		say(x.After != "", at+"/after", "Notices cannot wait for “"+x.After+"” yet.")
		say(x.Delay != nil, at+"/delay", "Notices cannot be sent later yet.")
		say(x.Collect != nil, at+"/collect", "Notices cannot be collected yet.")
		for _, e := range x.Attach {
			say(e.Document == "", at+"/attach", "Only documents can be attached yet.")
			say(e.As != "" && e.As != "pdf", at+"/attach", "Documents can be attached as PDF only.")
			say(e.Link != nil, at+"/attach", "Links instead of attachments cannot be sent yet.")
		}
	}
	for _, x := range d.Filings {
		at := "filings/" + x.Key
		say(len(x.What) > 1, at+"/what", "A rule files one document; write another rule for the next.")
		for _, e := range x.What {
			say(e.Document == "", at+"/what", "Only documents can be filed yet.")
			say(e.As != "" && e.As != "pdf" || e.Link != nil, at+"/what", "Documents can be filed as PDF only.")
		}
		say(len(x.To) > 0, at+"/to", "The house has one destination yet, its cabinet.")
		say(x.Taken != "" && x.Taken != "number", at+"/taken", "A name that is taken can only get a number yet.")
	}
	say(d.Retention != nil, "retention", "What was sent cannot be deleted by itself yet.")
	say(d.Stage == Trial, "stage", "An intake cannot be on trial yet.")
	return l
}
