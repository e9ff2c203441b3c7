/** Where a small mistake can be planted in a file, and the file with all of them in it, each to be switched on by itself. */
import ts from "typescript";

/** A place and what is done to it. */
export interface Site {
  /** The line, from 1. */
  line: number;
  before: string;
  after: string;
}

interface Edit extends Site {
  node: ts.Node;
  /** The text with the mistake in the place of the node; `kept` is what is written when it is off. */
  whole(kept: string, on: string): string;
}

const OTHER: Partial<Record<ts.SyntaxKind, string>> = {
  [ts.SyntaxKind.LessThanToken]: "<=",
  [ts.SyntaxKind.LessThanEqualsToken]: "<",
  [ts.SyntaxKind.GreaterThanToken]: ">=",
  [ts.SyntaxKind.GreaterThanEqualsToken]: ">",
  [ts.SyntaxKind.EqualsEqualsEqualsToken]: "!==",
  [ts.SyntaxKind.ExclamationEqualsEqualsToken]: "===",
  [ts.SyntaxKind.AmpersandAmpersandToken]: "||",
  [ts.SyntaxKind.BarBarToken]: "&&",
  [ts.SyntaxKind.PlusToken]: "-",
  [ts.SyntaxKind.MinusToken]: "+",
  [ts.SyntaxKind.AsteriskToken]: "/",
};
const METHODS = new Map([
  ["every", "some"],
  ["some", "every"],
  ["min", "max"],
  ["max", "min"],
]);

/** The condition of a statement of SQL that is left out, one for each: ` and …` up to where it ends. */
function withoutConditions(sql: string): string[] {
  if (!/\b(select|update|delete)\b/.test(sql)) return [];
  return [...sql.matchAll(/\s+and\s+/g)].flatMap(({ index, 0: and }) => {
    let depth = 0;
    let end = index + and.length;
    for (; end < sql.length; end++) {
      const rest = sql.slice(end);
      if (depth === 0 && /^(\s+(and|or|order|group|limit|returning|for update|union)\b|\)|`|")/.test(rest))
        break;
      if (sql[end] === "(" || sql[end] === "{") depth++;
      if (sql[end] === ")" || sql[end] === "}") depth--;
    }
    return /\bbetween\b[^()]*$/.test(sql.slice(0, index)) ? [] : [sql.slice(0, index) + sql.slice(end)];
  });
}

function editsOf(source: ts.SourceFile): Edit[] {
  const edits: Edit[] = [];
  const add = (
    node: ts.Node,
    after: string,
    whole: Edit["whole"] = (kept, on) => `(${on} ? ${after} : ${kept})`,
  ) => {
    const { line } = source.getLineAndCharacterOfPosition(node.getStart(source));
    edits.push({ node, line: line + 1, before: node.getText(source), after, whole });
  };
  const visit = (node: ts.Node, inside: boolean): void => {
    if (ts.isTypeNode(node) || ts.isTypeAliasDeclaration(node) || ts.isInterfaceDeclaration(node)) return;
    // What runs once, when the module is loaded, cannot be switched.
    const here = inside || (ts.isFunctionLike(node) && !ts.isConstructorDeclaration(node));
    if (inside) plant(node);
    ts.forEachChild(node, (child) => visit(child, here));
  };
  const text = (node: ts.Node) => node.getText(source);
  const plant = (node: ts.Node): void => {
    if (ts.isBinaryExpression(node)) {
      const { kind } = node.operatorToken;
      const other = OTHER[kind];
      if (other) add(node, `(${text(node.left)} ${other} ${text(node.right)})`);
      else if (kind === ts.SyntaxKind.QuestionQuestionToken) add(node, `(${text(node.left)})`);
    } else if (ts.isPrefixUnaryExpression(node) && node.operator === ts.SyntaxKind.ExclamationToken)
      add(node, `(${text(node.operand)})`);
    else if (node.kind === ts.SyntaxKind.TrueKeyword) add(node, "false");
    else if (node.kind === ts.SyntaxKind.FalseKeyword) add(node, "true");
    else if (ts.isNumericLiteral(node) && !ts.isPropertyAssignment(node.parent))
      add(node, `(${text(node)} + 1)`);
    else if (ts.isCallExpression(node) && ts.isPropertyAccessExpression(node.expression)) {
      const { expression, name } = node.expression;
      const other = METHODS.get(name.text);
      const given = node.arguments.map(text).join(", ");
      if (other) add(node, `${text(expression)}.${other}(${given})`);
      else if (name.text === "filter" && !node.questionDotToken) add(node, `${text(expression)}`);
    } else if (ts.isTemplateLiteral(node) || ts.isStringLiteral(node))
      for (const less of withoutConditions(text(node))) add(node, less);
    else if (ts.isIfStatement(node)) add(node.expression, `!(${text(node.expression)})`);
    else if (ts.isExpressionStatement(node) && /^(await )?[\w.]+\(/.test(text(node)))
      add(node, "", (kept, on) => `{ if (!${on}) { ${kept} } }`);
  };
  visit(source, false);
  return edits;
}

const read = (file: string, code: string) =>
  ts.createSourceFile(
    file,
    code,
    ts.ScriptTarget.Latest,
    true,
    file.endsWith("x") ? ts.ScriptKind.TSX : undefined,
  );

/** All places of a file, in the order of their numbers. */
export const sitesOf = (file: string, code: string): Site[] =>
  editsOf(read(file, code)).map(({ line, before, after }) => ({ line, before, after }));

/** The file with every mistake in it, switched by `__planted(number)`; numbers count from `first`. */
export function planted(file: string, code: string, first: number): string {
  const source = read(file, code);
  const byNode = new Map<ts.Node, { edit: Edit; number: number }[]>();
  editsOf(source).forEach((edit, at) => {
    byNode.set(edit.node, [...(byNode.get(edit.node) ?? []), { edit, number: first + at }]);
  });
  const write = (node: ts.Node): string => {
    const children: ts.Node[] = [];
    ts.forEachChild(node, (child) => void children.push(child));
    let out = "";
    let at = node.getStart(source);
    for (const child of children) {
      out += code.slice(at, child.getStart(source)) + write(child);
      at = child.end;
    }
    out += code.slice(at, node.end);
    // Of several mistakes at one place each is asked for in turn.
    for (const { edit, number } of byNode.get(node) ?? []) out = edit.whole(out, `__planted(${number})`);
    return out;
  };
  return code.slice(0, source.getStart(source)) + write(source) + code.slice(source.end);
}
