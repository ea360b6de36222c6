import { join } from "node:path";
import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";

/** Has the browser fetch beside the main bundle what most places show, and what the
 *  bundle would ask for only once it runs: the editor, and the fonts, without which
 *  everything would be laid out twice. */
const fetchAhead: Plugin = {
  name: "fetch-ahead",
  transformIndexHtml: {
    order: "post",
    handler(_, { bundle }) {
      const files = Object.values(bundle ?? {});
      const editor = files.find((c) => c.type === "chunk" && c.name === "editor");
      const fonts = files.filter((f) => /-latin-wght-normal-[^/]*\.woff2$/.test(f.fileName));
      return [
        ...(editor
          ? [
              {
                tag: "link",
                attrs: { rel: "modulepreload", crossorigin: true, href: `/${editor.fileName}` },
                injectTo: "head" as const,
              },
            ]
          : []),
        ...fonts.map((f) => ({
          tag: "link",
          attrs: {
            rel: "preload",
            as: "font",
            type: "font/woff2",
            crossorigin: true,
            href: `/${f.fileName}`,
          },
          injectTo: "head" as const,
        })),
      ];
    },
  },
};

type Modules = { getModuleInfo: (id: string) => { importedIds: string[] } | null };

/** Everything that a module cannot begin without. */
function needs(modules: Modules, from: string, found = new Set<string>()): Set<string> {
  if (!found.has(from)) {
    found.add(from);
    for (const id of modules.getModuleInfo(from)?.importedIds ?? []) needs(modules, id, found);
  }
  return found;
}

/** What the tool begins with is one file, and the editor another, so that neither waits
 *  for a dozen answers. */
function chunkOf(id: string, modules: Modules): string | null {
  const file = (name: string) => join(import.meta.dirname, "src", name);
  if (needs(modules, file("main.tsx")).has(id)) return "begin";
  return needs(modules, file("block/SourceEditor.tsx")).has(id) ? "editor" : null;
}

export default defineConfig({
  plugins: [react(), fetchAhead],
  build: {
    outDir: "dist",
    emptyOutDir: false,
    chunkSizeWarningLimit: 900,
    rolldownOptions: {
      output: { codeSplitting: { groups: [{ name: chunkOf, debugName: "begin, editor" }] } },
    },
  },
});
