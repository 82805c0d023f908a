/** A sentence: words, and a full stop, a question mark or an exclamation mark at the end. */
const SENTENCE = /[a-zA-Z]+ [a-z]+ [^]*[a-z)][.?!]\s*$/;

/** Each sentence that a screen shows stands once, in the catalogue of messages. */
const sentences = {
  create(context) {
    const check = (node, text) => {
      if (typeof text === "string" && SENTENCE.test(text))
        context.report({ node, message: "Write the sentence into the catalogue of messages and show it by say()." });
    };
    return {
      JSXText: (node) => check(node, node.value),
      Literal: (node) => check(node, node.value),
      TemplateElement: (node) => check(node, node.value.raw),
    };
  },
};

/** An accessor keeps what it refers to until a full collection, for each object anew (docs/notes.md, "Pace"). */
const accessors = {
  create(context) {
    return {
      Property(node) {
        if (node.kind !== "get" || node.parent.type !== "ObjectExpression") return;
        const message =
          "It keeps what it refers to until a full collection, for each object anew: write a class, or use withFigures.";
        context.report({ node, message });
      },
    };
  },
};

const WORDS = new Set(["Holds", "Tight", "Fails", "Stop"]);
const RELATIONS = new Set(["<", "<=", ">", ">="]);

/** Whether an expression compares figures anywhere in it. */
function compares(node) {
  if (!node || typeof node !== "object") return false;
  if (node.type === "BinaryExpression" && RELATIONS.has(node.operator)) return true;
  return [node.left, node.right, node.argument].some(compares);
}

/** The words of checks are chosen in `assessment/judge/` alone: no other line makes one of a comparison, or compares a margin. */
const verdicts = {
  create(context) {
    const message =
      "Only the judge compares a figure with a limit: show the word, or ask `met`, `isBroken` or `isSpare`.";
    const isMargin = (node) =>
      (node.type === "Identifier" && node.name === "margin") ||
      (node.type === "MemberExpression" && node.property.name === "margin");
    return {
      ConditionalExpression(node) {
        const words = [node.consequent, node.alternate].some((one) => one.type === "Literal" && WORDS.has(one.value));
        if (words && compares(node.test)) context.report({ node, message });
      },
      BinaryExpression(node) {
        const number = [node.left, node.right].some((one) => one.type === "Literal" && typeof one.value === "number");
        if (RELATIONS.has(node.operator) && number && [node.left, node.right].some(isMargin))
          context.report({ node, message });
      },
    };
  },
};

/** Rules of this project alone, for `.oxlintrc.json`. */
export default { meta: { name: "chillbank" }, rules: { sentences, accessors, verdicts } };
