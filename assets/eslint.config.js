import js from "@eslint/js";
import globals from "globals";

export default [
  js.configs.recommended,
  {
    languageOptions: { ecmaVersion: 2024, sourceType: "module", globals: globals.browser },
    rules: {
      "no-unused-vars": ["error", { args: "after-used" }],
      complexity: ["error", 10],
      eqeqeq: "error",
      "no-var": "error",
      "prefer-const": "error",
    },
  },
];
