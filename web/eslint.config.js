import { readdirSync } from "node:fs";
import js from "@eslint/js";
import imports, { createNodeResolver } from "eslint-plugin-import-x";
import hooks from "eslint-plugin-react-hooks";
import ts from "typescript-eslint";

// The places of the interface know what all share and nothing of each other; what all share
// knows the contract; the contract knows nothing. app and main.tsx know everything.
const places = readdirSync(new URL("./src", import.meta.url), { withFileTypes: true })
  .filter((d) => d.isDirectory() && !["api", "shared", "app", "testing"].includes(d.name))
  .map((d) => d.name);
const zones = [
  { target: "./src/api", from: "./src", except: ["./api", "./testing"] },
  { target: "./src/shared", from: "./src", except: ["./api", "./shared", "./testing"] },
  ...places.map((p) => ({
    target: `./src/${p}`,
    from: "./src",
    except: ["./api", "./shared", "./testing", `./${p}`],
  })),
];

export default ts.config(
  { ignores: ["dist", "src/api/contract.gen.ts"] },
  js.configs.recommended,
  ...ts.configs.strictTypeChecked,
  {
    languageOptions: {
      parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname },
    },
  },
  {
    files: ["src/**/*.{ts,tsx}"],
    plugins: { "react-hooks": hooks, "import-x": imports },
    settings: {
      "import-x/parsers": { "@typescript-eslint/parser": [".ts", ".tsx"] },
      "import-x/resolver-next": [createNodeResolver({ extensions: [".ts", ".tsx", ".js"] })],
    },
    rules: {
      ...hooks.configs.recommended.rules,
      "react-hooks/incompatible-library": "off",
      "import-x/no-cycle": "error",
      "import-x/no-restricted-paths": ["error", { zones }],
    },
  },
  {
    rules: {
      "@typescript-eslint/restrict-template-expressions": ["error", { allowNumber: true }],
      "@typescript-eslint/no-confusing-void-expression": "off",
      "@typescript-eslint/no-misused-promises": ["error", { checksVoidReturn: false }],
    },
  },
);
