import { createTypeScriptImportResolver } from "eslint-import-resolver-typescript";
import imports from "eslint-plugin-import-x";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: ["src/api/schema.d.ts"] },
  ...tseslint.configs.strict,
  hooks.configs.flat["recommended-latest"],
  {
    plugins: { "import-x": imports },
    settings: { "import-x/resolver-next": [createTypeScriptImportResolver()] },
    rules: {
      // Pages and parts that need each other are one thing, or need a third.
      "import-x/no-cycle": "error",
      "no-restricted-globals": [
        "error",
        // Missing where a page is opened without TLS from another machine.
        { name: "crypto", message: 'Take newId from "parts/ids".' },
      ],
    },
  },
);
