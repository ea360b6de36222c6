import { join } from "node:path";
import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";

/** Has the browser fetch the editor beside the main bundle: most places show it, and
 *  the bundle would ask for it only once it runs. */
const editorAhead: Plugin = {
  name: "editor-ahead",
  transformIndexHtml: {
    order: "post",
    handler(_, { bundle }) {
      const editor = Object.values(bundle ?? {}).find((c) => c.type === "chunk" && c.name === "editor");
      return editor && [{ tag: "link", attrs: { rel: "modulepreload", crossorigin: true, href: `/${editor.fileName}` }, injectTo: "head" }];
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
  plugins: [react(), editorAhead],
  build: { outDir: "dist", emptyOutDir: false, chunkSizeWarningLimit: 900, rolldownOptions: { output: { codeSplitting: { groups: [{ name: chunkOf, debugName: "begin, editor" }] } } } },
});
