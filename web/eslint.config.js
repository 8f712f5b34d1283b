import js from "@eslint/js";
import reactHooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: ["dist", "src/api/schema.d.ts"] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  reactHooks.configs.flat.recommended,
  {
    rules: {
      "no-console": "error",
      "no-restricted-imports": ["error", { patterns: ["../*/*/../features/*/*"] }],
      "@typescript-eslint/no-non-null-assertion": "error",
      "react-hooks/incompatible-library": "off",
    },
  },
);
