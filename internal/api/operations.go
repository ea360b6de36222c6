package api

import (
	"cmp"
	"context"

	"brickshelf/internal/core/block"
	"brickshelf/internal/core/edit/adopting"
	"brickshelf/internal/core/edit/copies"
	"brickshelf/internal/core/edit/documents"
	"brickshelf/internal/core/edit/outline"
	"brickshelf/internal/core/edit/parts"
	"brickshelf/internal/core/edit/placing"
	"brickshelf/internal/core/edit/values"
	"brickshelf/internal/core/edit/wording"
	"brickshelf/internal/core/explain"
	"brickshelf/internal/core/repeat"
	"brickshelf/internal/core/shelf"
	"brickshelf/internal/core/site"
	"brickshelf/internal/workspace"
)

// operation is one of the operations of the contract, with its arguments, which fit the
// contract. Its only method says what it does to a site.
type operation interface {
	changes(at desk) (outcome, error)
}

// desk is what an operation works on: the draft of an open site.
type desk struct {
	space  *workspace.Workspace
	draft  *shelf.Shelf
	server *Server // with the other sites
	ctx    context.Context
}

// outcome is what an operation gives: a change set, and for some what became of each page,
// value or copy.
type outcome struct {
	set      site.ChangeSet
	rolled   []placing.Rolled
	without  []values.Mention
	linked   []copies.Linked
	left     []copies.Left
	arrivals []parts.Arrival
	pairs    map[string]string // of fields, where a block is replaced
	fields   []string          // that come about by a merge
	made     []MadeBlock       // of repeated pieces
}

func changed(set site.ChangeSet, err error) (outcome, error) { return outcome{set: set}, err }

func (o DetachOperation) changes(at desk) (outcome, error) {
	if given(o.InBlock) {
		if len(o.Spots) != 1 {
			return outcome{}, site.Refuse("one call at a time is detached in a block")
		}
		return changed(copies.DetachInBlock(at.draft, spots(o.Spots)[0]))
	}
	set, err := copies.DetachAll(at.draft, spots(o.Spots), given(o.Filled))
	if err != nil {
		return outcome{}, err
	}
	set, _ = values.WithStableKeys(at.draft, set)
	return outcome{set: set}, nil
}

func spots(list []Spot) []copies.Spot {
	out := make([]copies.Spot, len(list))
	for i, s := range list {
		out[i] = copies.Spot{Doc: s.Doc, Address: s.Address}
	}
	return out
}

func (o LinkOperation) changes(at desk) (outcome, error) {
	set, linked, err := copies.LinkAll(at.draft, spots(o.Spots), copies.Rest(cmp.Or(given(o.Rest), Goes)))
	return outcome{set: set, linked: linked}, err
}

func (o UpdateOperation) changes(at desk) (outcome, error) {
	list := make([]copies.Wanted, len(o.Copies))
	for i, c := range o.Copies {
		list[i] = copies.Wanted{Spot: copies.Spot{Doc: c.Doc, Address: c.Address},
			Seen: site.Hash(given(c.Seen))}
		for _, k := range given(c.Choices) {
			list[i].Choices = append(list[i].Choices, copies.Choice{Take: copies.Side(k.Take),
				Text: given(k.Text)})
		}
	}
	set, left, err := copies.Update(at.draft, list)
	return outcome{set: set, left: append([]copies.Left{}, left...)}, err
}

func (o NewBlockOperation) changes(at desk) (outcome, error) {
	return changed(documents.NewBlock(at.draft, o.Block, given(o.Title), given(o.Category)))
}

func (o DuplicateBlockOperation) changes(at desk) (outcome, error) {
	return changed(documents.DuplicateBlock(at.draft, o.Block, o.To))
}

func (o RenameBlockOperation) changes(at desk) (outcome, error) {
	return changed(documents.RenameBlock(at.draft, o.Block, o.To))
}

func (o DeleteBlockOperation) changes(at desk) (outcome, error) {
	with := documents.Replacement(cmp.Or(string(given(o.With)), string(documents.WithNothing)))
	set, lost, err := documents.DeleteBlock(at.draft, o.Block, with, given(o.To), given(o.Fields))
	out := outcome{set: set, without: lost}
	if with == documents.WithAnother && err == nil {
		out.pairs = paired(at.draft, o.Block, given(o.To), o.Fields)
	}
	return out, err
}

func (o ReplaceOperation) changes(at desk) (outcome, error) {
	x := documents.Exchange{From: o.Block, To: o.To, Fields: given(o.Fields)}
	if o.Spots != nil {
		x.Spots = spots(*o.Spots)
	}
	set, lost, err := documents.Replace(at.draft, x)
	if err != nil {
		return outcome{}, err
	}
	return outcome{set: set, without: lost, pairs: paired(at.draft, o.Block, o.To, o.Fields)}, nil
}

func (o ReplaceWordsOperation) changes(at desk) (outcome, error) {
	var without []wording.Name
	for _, n := range given(o.Without) {
		without = append(without, wording.Name{Path: n.Doc, N: n.N})
	}
	return changed(wording.Replace(at.draft, query(o.Words), o.With, without, site.Hash(given(o.Seen))))
}

func (o MakeBlocksOperation) changes(at desk) (outcome, error) {
	pages, found, err := at.server.repeats(at.ctx, at.space)
	if err != nil {
		return outcome{}, err
	}
	var wanted []adopting.Wanted
	for _, w := range o.Pieces {
		p := found.Piece(w.Id)
		if p == nil {
			return outcome{}, site.Missing("the pages have changed, and %s is not repeated on them any more; look for repeated pieces anew",
				cmp.Or(given(w.Title), w.Id))
		}
		one := adopting.Wanted{Piece: p, Name: given(w.Block), Title: given(w.Title), Rename: given(w.Rename),
			Leave: map[string]bool{}, Types: map[string]repeat.FieldType{}, Drop: given(w.Drop)}
		for field, t := range given(w.Types) {
			one.Types[field] = repeat.FieldType(t)
		}
		for _, doc := range given(w.Leave) {
			one.Leave[doc] = true
		}
		wanted = append(wanted, one)
	}
	set, list, err := adopting.Adopt(at.draft, pages, wanted)
	out := outcome{set: set, made: []MadeBlock{}}
	for i, m := range list {
		made := MadeBlock{Id: o.Pieces[i].Id, Block: m.Name, Title: m.Title, Places: m.Places,
			Left: []string{}}
		for _, l := range m.Left {
			made.Left = append(made.Left, l.Path)
		}
		out.made = append(out.made, made)
	}
	return out, err
}

func (o MakeLayoutOperation) changes(at desk) (outcome, error) {
	pages, found, err := at.server.repeats(at.ctx, at.space)
	if err != nil {
		return outcome{}, err
	}
	w := adopting.WantedLayout{Top: found.Piece(o.Top), Bottom: found.Piece(o.Bottom), Title: given(o.Title)}
	if w.Top == nil || w.Bottom == nil {
		return outcome{}, site.Missing("the pages have changed, and these pieces are not repeated on them any more; look for repeated pieces anew")
	}
	set, m, err := adopting.Layout(at.draft, pages, w)
	return outcome{set: set, made: []MadeBlock{{Id: o.Top, Block: m.Name, Title: m.Title, Places: m.Pages,
		Left: append([]string{}, m.Left...)}}}, err
}

// paired tells to which field of another block each of a block's goes: as was asked, or as they
// are paired by themselves.
func paired(d *shelf.Shelf, from, to string, asked *FieldPairs) map[string]string {
	if asked != nil {
		return *asked
	}
	return values.Pairs(d.Block(from), d.Block(to))
}

func (o AdoptOperation) changes(at desk) (outcome, error) {
	places := make([]copies.Place, len(o.Places))
	for i, p := range o.Places {
		places[i] = copies.Place{Doc: p.Doc, From: p.From, To: p.To}
	}
	set, linked, err := copies.Adopt(at.draft, o.Block, places, o.Link)
	return outcome{set: set, linked: linked}, err
}

func (o BringBackOperation) changes(at desk) (outcome, error) {
	return changed(at.space.BringBack(o.Path, site.Hash(o.Hash)))
}

func (o TakeBackOperation) changes(at desk) (outcome, error) {
	return changed(at.space.TakeBack(o.Edit))
}

func (o MergeBlocksOperation) changes(at desk) (outcome, error) {
	set, fields, err := documents.Merge(at.draft, o.Block, o.Other)
	return outcome{set: set, fields: append([]string{}, fields...)}, err
}

func (o BlockFromPieceOperation) changes(at desk) (outcome, error) {
	return changed(documents.FromPiece(at.draft, o.Doc, o.Piece.From, o.Piece.To,
		documents.Wanted{Name: o.Block, Title: given(o.Title), Category: given(o.Category),
			Fields: given(o.Fields), Link: !given(o.Stays)}))
}

func (o MovePageOperation) changes(at desk) (outcome, error) {
	return changed(documents.MovePage(at.draft, o.Doc, o.To, given(o.Redirect)))
}

func (o SwitchSetOperation) changes(at desk) (outcome, error) {
	return changed(documents.SwitchSet(at.draft, o.Set, o.On))
}

func (o NewPageOperation) changes(at desk) (outcome, error) {
	return changed(documents.NewPage(at.draft, o.To, given(o.Title), given(o.Layout)))
}

func (o DuplicatePageOperation) changes(at desk) (outcome, error) {
	return changed(documents.DuplicatePage(at.draft, o.Doc, o.To, given(o.Title)))
}

func (o DeletePageOperation) changes(at desk) (outcome, error) {
	return changed(documents.DeletePage(at.draft, o.Doc))
}

func (o SetLayoutOperation) changes(at desk) (outcome, error) {
	return changed(documents.SetLayout(at.draft, o.Doc, given(o.Layout), given(o.Regions)))
}

func (o SendPartOperation) changes(at desk) (outcome, error) {
	return changed(outline.Send(at.draft, o.Doc, o.From, o.To, o.Region))
}

func (o NewLayoutOperation) changes(at desk) (outcome, error) {
	return changed(documents.NewLayout(at.draft, o.Name, given(o.Title), given(o.Layout)))
}

func (o DeleteLayoutOperation) changes(at desk) (outcome, error) {
	return changed(documents.DeleteLayout(at.draft, o.Name, given(o.To)))
}

func (o NewRuleOperation) changes(at desk) (outcome, error) {
	return changed(placing.NewRule(at.draft, o.Name, o.Title, o.Block, o.Region))
}

func (o HostOverlayOperation) changes(at desk) (outcome, error) {
	if o.Doc != nil {
		return changed(placing.Host(at.draft, o.Block, o.Id, []string{*o.Doc}, false))
	}
	return changed(placing.Host(at.draft, o.Block, o.Id, explain.Unhosted(at.draft, o.Id), true))
}

func (o DeleteRuleOperation) changes(at desk) (outcome, error) {
	return changed(placing.DeleteRule(at.draft, o.Name))
}

func (o OrderRulesOperation) changes(at desk) (outcome, error) {
	return changed(placing.OrderRules(at.draft, o.Region, modeOf(at.draft, o.Region), o.Rules))
}

func (o NewMenuOperation) changes(at desk) (outcome, error) {
	return changed(documents.NewMenu(at.draft, o.Name, given(o.Title)))
}

func (o MoveFileOperation) changes(at desk) (outcome, error) {
	return changed(documents.MoveFile(at.draft, o.Path, o.To))
}

func (o DeleteFileOperation) changes(at desk) (outcome, error) {
	return changed(documents.DeleteFile(at.draft, o.Path))
}

func (o DeleteMenuOperation) changes(at desk) (outcome, error) {
	return changed(documents.DeleteMenu(at.draft, o.Name))
}

func (o RenameFieldOperation) changes(at desk) (outcome, error) {
	return changed(values.RenameField(at.draft, o.Block, o.Field, o.To))
}

func (o AddFieldOperation) changes(at desk) (outcome, error) {
	return changed(values.AddField(at.draft, o.Block, o.Field, block.Type(o.Type),
		values.Entered(&block.Field{Type: block.Type(o.Type)}, given(o.Value))))
}

func (o DropOrphansOperation) changes(at desk) (outcome, error) {
	return changed(values.DropOrphans(at.draft, o.Block, given(o.Field)))
}

func (o FieldFromTextOperation) changes(at desk) (outcome, error) {
	return changed(values.FieldFromText(at.draft, o.Block, o.Piece.From, o.Piece.To, o.Field))
}

func (o MakeDefaultOperation) changes(at desk) (outcome, error) {
	return changed(values.MakeDefault(at.draft, o.Block, o.Field, o.Value, given(o.Keep)))
}

func (o RaiseToRuleOperation) changes(at desk) (outcome, error) {
	return changed(values.RaiseToRule(at.draft, o.Rule, o.Field, o.Value))
}

func (o RaiseToPageOperation) changes(at desk) (outcome, error) {
	return changed(values.RaiseToPage(at.draft, o.Block, o.Field, o.Value, o.To))
}

func (o RetargetOperation) changes(at desk) (outcome, error) {
	return changed(values.Retarget(at.draft, o.Doc, o.Address, given(o.To)))
}

func (o SetValuesOperation) changes(at desk) (outcome, error) {
	edits := make([]values.Edit, len(o.Values))
	for i, v := range o.Values {
		edits[i] = values.Edit{Doc: v.Doc, Address: v.Address, Field: v.Field, Text: v.Text}
	}
	return changed(values.Enter(at.draft, o.Block, edits))
}

func (o RetypeFieldOperation) changes(at desk) (outcome, error) {
	set, without, err := values.RetypeField(at.draft, o.Block, o.Field, block.Type(o.Type))
	return outcome{set: set, without: append([]values.Mention{}, without...)}, err
}

func (o RemoveFieldOperation) changes(at desk) (outcome, error) {
	set, without, err := values.RemoveField(at.draft, o.Block, o.Field)
	return outcome{set: set, without: append([]values.Mention{}, without...)}, err
}

func (o BringBackFieldOperation) changes(at desk) (outcome, error) {
	earlier, err := at.space.Earlier("blocks/" + o.Block + ".html")
	if err != nil {
		return outcome{}, err
	}
	return changed(values.BringBack(at.draft, o.Block, o.Field, earlier))
}

func (o RollOutOperation) changes(at desk) (outcome, error) {
	set, rolled, err := placing.RollOut(at.draft, o.Pages, o.Region, o.Calls,
		given(o.At) == RollOutOperationAtStart)
	if err != nil {
		return outcome{}, err
	}
	if given(o.AsCopies) {
		if set.Changes, err = copied(at.draft, set.Changes, rolled); err != nil {
			return outcome{}, err
		}
		set.Title += ", as copies"
	}
	if len(given(o.Layouts)) > 0 {
		var begin []site.Change
		begin, err = placing.BeginWith(at.draft, *o.Layouts, o.Region, o.Calls)
		set.Changes = append(set.Changes, begin...)
	}
	return outcome{set: set, rolled: append([]placing.Rolled{}, rolled...)}, err
}

// copied makes copies of the calls that a roll-out puts on pages.
func copied(d *shelf.Shelf, changes []site.Change, rolled []placing.Rolled) ([]site.Change, error) {
	where := map[string]placing.Rolled{}
	for _, r := range rolled {
		where[r.Doc] = r
	}
	parts, errs := make([][]site.Change, len(changes)), make([]error, len(changes))
	shelf.Parallel(len(changes), func(i int) {
		r := where[changes[i].Path]
		parts[i], errs[i] = copies.AsCopies(d, changes[i].Path, changes[i].After, r.From, r.To)
	})
	var out []site.Change
	known := map[string]bool{} // revisions that others came from, too
	for i, list := range parts {
		if errs[i] != nil {
			return nil, errs[i]
		}
		for _, c := range list {
			if !known[c.Path] {
				known[c.Path] = true
				out = append(out, c)
			}
		}
	}
	return out, nil
}

func (o TakeOffOperation) changes(at desk) (outcome, error) {
	set, rolled, err := placing.TakeOff(at.draft, o.Pages, o.Region, o.Block)
	return outcome{set: set, rolled: append([]placing.Rolled{}, rolled...)}, err
}
