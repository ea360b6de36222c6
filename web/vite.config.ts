import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";

/** Has the browser fetch the editor beside the main bundle: most places show it, and
 *  the bundle would ask for it only once it runs. */
const editorAhead: Plugin = {
  name: "editor-ahead",
  transformIndexHtml: {
    order: "post",
    handler(_, { bundle }) {
      const editor = Object.values(bundle ?? {}).find((c) => c.type === "chunk" && c.facadeModuleId?.endsWith("/block/SourceEditor.tsx"));
      if (editor?.type !== "chunk") return;
      return [editor.fileName, ...editor.imports].map((name) => ({ tag: "link", attrs: { rel: "modulepreload", crossorigin: true, href: `/${name}` }, injectTo: "head" as const }));
    },
  },
};

export default defineConfig({
  plugins: [react(), editorAhead],
  build: { outDir: "dist", emptyOutDir: false, chunkSizeWarningLimit: 900 },
});
