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

/** Rules of this project alone, for `.oxlintrc.json`. */
export default { meta: { name: "chillbank" }, rules: { sentences, accessors } };
