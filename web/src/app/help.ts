/** What a place is for, its keys, and one job as an example. */
export interface Help {
  name: string;
  what: string;
  keys: [string, string][];
  example: string;
}

const table: Record<string, Help> = {
  "blocks make": {
    name: "A block",
    what: "The markup, fields, style and behaviour of one block, beside a page on which it stands. While you type, the wall shows which pages would change, which keep a value of their own, and what would break.",
    keys: [
      ["Ctrl S", "save to the draft"],
      ["Ctrl Space", "complete a call, a field, a value"],
      ["W", "go to the wall, Enter there shows a page before and after"],
    ],
    example:
      "Write “Our ” before a heading of the footer. The wall turns the pages that would show it; “Look at them” goes through them; “Save to the draft” keeps it.",
  },
  "blocks placements": {
    name: "Placements",
    what: "Every spot where the block stands and how it came there: by a rule, by a layout, in a page's own text. Placements are detached, linked again, updated from the block or replaced here, one or many.",
    keys: [
      ["Space", "choose the row"],
      ["D L R U", "detach it, link it again, replace it, update it from the block; Enter does it"],
    ],
    example:
      "Choose three placements and press “Detach 3”: no byte of the pages changes, but later edits of the block leave them alone.",
  },
  "blocks values": {
    name: "Values",
    what: "Every field of the block at every placement: inherited, or the page's own. One value or many are changed at once.",
    keys: [
      ["↑ ↓ ← →", "from cell to cell, with Shift over several"],
      ["type, or F2", "write into the cell; Enter and Tab keep it and go on"],
      ["Ctrl C, Ctrl V", "copy and paste, also to and from a table elsewhere"],
      ["Delete", "back to what is inherited"],
    ],
    example:
      "Go to the first phone number, Shift ↓ over those below, type the new one, Enter, save.",
  },
  "blocks manage": {
    name: "Manage a block",
    what: "Its name, a copy of it, its end; merged with another or put in the place of one; fields renamed and retyped with all that speaks of them.",
    keys: [],
    example: "Rename it: each call follows, and no page changes.",
  },
  pages: {
    name: "A page",
    what: "What stands in each region of a page and why, its source and settings. Blocks are dragged from the shelf into a region, or added with “Add to”.",
    keys: [
      ["Space, then ↑ ↓", "take a row and move it, Space puts it down"],
      ["Ctrl S", "save to the draft"],
    ],
    example: "Open “Why?” at a region to see which rules compete there and what decides.",
  },
  rules: {
    name: "Rules",
    what: "A rule puts a block into a region of the pages that it names: all, a branch, a type, a tag, single pages. The more specific rule wins.",
    keys: [["Space, then ↑ ↓", "take a rule and put it elsewhere in the order"]],
    example:
      "“New rule for” a block, into a region, on a branch: the wall shows which pages take it, and which lose something by it.",
  },
  layouts: {
    name: "Layouts",
    what: "A type of page: its frame, its regions, the fields of its pages, and what a new page of it begins with.",
    keys: [["Ctrl S", "save to the draft"]],
    example: "Add a region “aside” behind main, then place a block there by a rule.",
  },
  menus: {
    name: "Menus",
    what: "The entries of a menu as a tree, with badges, icons, panels that hold blocks, and who sees them when.",
    keys: [
      ["↑ ↓", "from entry to entry"],
      ["Ctrl ↑ ↓ ← →", "move the entry: up, down, out of and into another"],
    ],
    example:
      "Move an entry below another with Ctrl →; each page that shows the menu is on the wall.",
  },
  files: {
    name: "Files",
    what: "Pictures and other files, published as they are or as small as their place needs. Where one is shown is on the wall; what names it follows when it is moved.",
    keys: [["Ctrl V", "put a picture from the clipboard here"]],
    example: "Drop a picture here, then “Show it on pages”.",
  },
  site: {
    name: "The site",
    what: "Its name and address, its home page, and values that all pages share, such as a phone number.",
    keys: [["Ctrl S", "save to the draft"]],
    example: "Change the motto: the wall shows the pages that show it.",
  },
  reference: {
    name: "Reference",
    what: "Everything that can be called, with its parameters and a sample as it looks; sets of shortcodes on and off.",
    keys: [],
    example: "Type a word into the filter, and copy the call.",
  },
  scripts: {
    name: "A script",
    what: "A shortcode with code behind it, tried out while it is written.",
    keys: [["Ctrl S", "save to the draft"]],
    example: "Change what it returns, and look at “Try it”.",
  },
  checks: {
    name: "Checks",
    what: "What is wrong in the draft, where, and what would mend it; and how each one-off copy stands.",
    keys: [],
    example: "Follow an error to its line, mend it there, and come back.",
  },
  review: {
    name: "Review",
    what: "All edits since the last release, the pages that differ from the live site, what is broken; publish, or take an edit or a release back.",
    keys: [["[ ]", "look at the pages that differ, one after the other"]],
    example: "Press a page to see it live and as a draft, then “Publish”.",
  },
  parts: {
    name: "Parts",
    what: "Blocks, menus, pages and all that they need, taken to another site or brought in from one.",
    keys: [],
    example: "Choose a block, see what comes along, and hand it to another site.",
  },
  "roll-out": {
    name: "Put on many pages",
    what: "A block put into a region of many pages, or taken off them: each page is listed with what happens to it.",
    keys: [["W", "choose pages on the wall: Enter takes the brick in or out"]],
    example: "Choose a branch in the tree, a block, and “Put it there”.",
  },
  repeats: {
    name: "Repeated pieces",
    what: "What stands on many pages alike, and what differs there. A piece becomes a block with fields; each of its places becomes a call, and no byte of any page changes.",
    keys: [["↑ ↓", "from piece to piece"]],
    example:
      "Open the footer, look at what its pages say, and press “Make it a block”. From then on it is edited once.",
  },
  words: {
    name: "Find and replace",
    what: "Words wherever the site says them, in texts, attributes and values; some or all of them replaced as one edit.",
    keys: [
      ["Enter", "replace all that is chosen"],
      ["Space", "leave a spot out"],
    ],
    example: "Find a phone number, type the new one, leave out the page that keeps the old, Enter.",
  },
};

const fallback: Help = {
  name: "This place",
  what: "Choose something from the shelf or a place from the bar.",
  keys: [],
  example: "Press Ctrl K and type what you look for.",
};

/** The help of a place: one of the bench's, or a tab of a block. */
export function helpOf(path: string, query: URLSearchParams): Help {
  const [, , place = "blocks"] = path.split("/");
  if (place !== "blocks") return table[place] ?? fallback;
  return table[`blocks ${query.get("tab") ?? "make"}`] ?? table["blocks make"] ?? fallback;
}
