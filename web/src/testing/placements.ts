/** A placement as the server tells of one, on a page. */
export const place = (page: string, more = {}) => ({
  page,
  title: `Page ${page}`,
  doc: `pages${page}x.html`,
  address: "foot/rule:footer",
  region: "foot",
  kind: "linked",
  via: "rules/footer.yaml",
  own: [],
  ...more,
});
/** An operation that was worked out: which pages it changes, and why it cannot be saved. */
export const operated = (counts: object, sentence: string, problems: object[] = []) => ({
  change_set: {
    title: "Detach footer",
    changes: [{ path: "pages/a/x.html", before: "h", text: "new" }],
  },
  proposal: {
    id: "7",
    problems,
    impact: problems.length
      ? null
      : { total: 4, counts, effects: "", added: [], breaks: [], sentence },
  },
});
