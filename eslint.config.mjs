import js from "@eslint/js";
import hooks from "eslint-plugin-react-hooks";
import ts from "typescript-eslint";

export default ts.config(
  { ignores: ["public/", ".next/", ".local/", "node_modules/", "next-env.d.ts", "test-results/"] },
  js.configs.recommended,
  ...ts.configs.recommended,
  { rules: { "no-undef": "off", "no-console": "off", eqeqeq: "error" } },
  {
    // Where React is used; its rules compile every function that they look at.
    files: ["src/ui/**", "src/app/**"],
    plugins: { "react-hooks": hooks },
    rules: { ...hooks.configs.recommended.rules, "react-hooks/set-state-in-effect": "off" },
  },
  {
    files: ["src/**"],
    rules: { "no-console": "error" },
  },
  {
    // A function of the core fits a page and says its arguments by name; one that does not says why where it is switched off.
    files: ["src/core/**"],
    ignores: ["**/*.test.ts"],
    rules: {
      "max-lines-per-function": ["error", { max: 80, skipBlankLines: true, skipComments: true }],
      "max-params": ["error", 4],
      "no-restricted-syntax": [
        "error",
        {
          selector: "ObjectExpression > Property[kind='get']",
          message:
            "It keeps what it refers to until a full collection, for each object anew: write a class, or use withFigures.",
        },
      ],
    },
  },
  {
    // Each sentence that a screen shows stands once, in the catalogue of messages.
    files: ["src/ui/**/*.tsx", "src/app/**/*.tsx", "src/csv/**", "src/workers/**"],
    ignores: ["**/*.test.ts"],
    rules: {
      "no-restricted-syntax": [
        "error",
        ...["JSXText[value", "Literal[value", "TemplateElement[value.raw"].map((what) => ({
          selector: `${what}=/[a-zA-Z]+ [a-z]+ [^]*[a-z)][.?!]\\s*$/]`,
          message: "Write the sentence into the catalogue of messages and show it by say().",
        })),
      ],
    },
  },
);
