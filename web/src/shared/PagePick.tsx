import Autocomplete, { createFilterOptions } from "@mui/material/Autocomplete";
import TextField from "@mui/material/TextField";

interface Option {
  path: string;
  title: string;
}

/** How many pages are listed at once; all are found by typing. */
const listed = 100;
const rest = "…"; // no address is that
const found = createFilterOptions<Option>({ stringify: (p) => `${p.title} ${p.path}` });

/** The choice of a page by its title or address; also what else can be chosen in place of one. */
export function PagePick({
  label,
  pages,
  page,
  choose,
  also = [],
}: {
  label: string;
  pages: Option[];
  page: string;
  choose: (path: string) => void;
  /** Each with the value that stands for it in place of an address. */
  also?: Option[];
}) {
  const all = also.length > 0 ? [...also, ...pages] : pages;
  const now = all.find((p) => p.path === page) ?? { path: page, title: page };
  return (
    <Autocomplete
      size="small"
      className="page-pick"
      disableClearable
      autoHighlight
      options={all}
      value={now}
      onChange={(_, p) => choose(p.path)}
      isOptionEqualToValue={(a, b) => a.path === b.path}
      getOptionKey={(p) => p.path}
      getOptionLabel={(p) => p.path || p.title}
      filterOptions={(options, state) => {
        const list = found(options, state);
        const more = list.length - listed;
        return more > 0
          ? [...list.slice(0, listed), { path: rest, title: `and ${more} more: type to find them` }]
          : list;
      }}
      getOptionDisabled={(p) => p.path === rest}
      renderOption={({ key, ...row }, p) => (
        <li key={key} {...row}>
          <span dir="auto">
            {p.title} {p.path !== rest && <span className="soft">{p.path}</span>}
          </span>
        </li>
      )}
      slotProps={{ popper: { placement: "bottom-end", style: { width: 340 } } }}
      renderInput={(params) => (
        <TextField
          {...params}
          slotProps={{
            ...params.slotProps,
            htmlInput: { ...params.slotProps.htmlInput, "aria-label": label },
          }}
        />
      )}
    />
  );
}
