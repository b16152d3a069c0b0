/**
 * Every word that people read, place by place, as a text: `npm run words` for all of it, `npm run words moments` for one
 * folder. For reading it through; `scripts/words.test.ts` reads it too.
 */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import ts from 'typescript';

interface Said {
  file: string;
  line: number;
  text: string;
}

/** Attributes that hold words. */
const wordy = /^(label|title|aria-label|aria-valuetext|placeholder|hint|alt|says|does|what|legend|empty|description)$/;
/** A string that is a sentence, or a few words of one; not a class, an address, a key or a name of something in the code. */
const sentence = /^[“A-Z].*( .*[a-z]|[.?!…])/;
const machine =
  /^(https?:|\/|#|[a-z-]+:|\S+=|[A-Z_]+$|Content-|X-|Basic realm)|\btext-|\bflex\b|rounded|px-|border-|=>|^\S+\/\S+$/;
/** In these rooms only whole sentences are for people. */
const quietRooms = ['core', 'usecases', 'media', 'data', 'jobs', 'cli'];

function textOf(node: ts.Node): string | null {
  if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) return node.text;
  if (ts.isTemplateExpression(node))
    return node.head.text + node.templateSpans.map((span) => `{}${span.literal.text}`).join('');
  return null;
}

/** What a file says, in its order. */
export function wordsOf(file: string, source: string): Said[] {
  const isQuiet = quietRooms.includes(file.split('/')[0]!);
  const tree = ts.createSourceFile(
    file,
    source,
    ts.ScriptTarget.Latest,
    true,
    file.endsWith('x') ? ts.ScriptKind.TSX : ts.ScriptKind.TS,
  );
  const found: Said[] = [];
  const say = (node: ts.Node, text: string) => {
    const plain = text.replace(/\s+/g, ' ').trim();
    if (!/[A-Za-z]{2}/.test(plain)) return;
    found.push({ file, line: tree.getLineAndCharacterOfPosition(node.getStart()).line + 1, text: plain });
  };
  const visit = (node: ts.Node): void => {
    if (ts.isImportDeclaration(node) || ts.isTypeNode(node)) return;
    if (ts.isJsxText(node)) return say(node, node.text);
    const text = textOf(node);
    if (text !== null) {
      // An attribute holds its words itself, or in braces.
      const parent = ts.isJsxExpression(node.parent) ? node.parent.parent : node.parent;
      const isWordy =
        (ts.isJsxAttribute(parent) && wordy.test(parent.name.getText())) ||
        (ts.isPropertyAssignment(parent) && wordy.test(parent.name.getText()));
      const isSentence = isQuiet ? /^[“A-Z{].* .*[.?!…]$/.test(text) : sentence.test(text);
      if ((isWordy || isSentence) && !machine.test(text)) say(node, text);
    }
    ts.forEachChild(node, visit);
  };
  visit(tree);
  return found;
}

/** All files of a room that are no tests. */
const filesIn = (room: string): string[] =>
  readdirSync(room, { recursive: true, encoding: 'utf8' })
    .filter((path) => /\.tsx?$/.test(path) && !/\.test\.tsx?$|test[A-Z]\w*\.ts$|migrations|\+types/.test(path))
    .map((path) => join(room, path))
    .sort();

/** Everything that is said, by the file that says it. */
export const allWords = (): Said[] =>
  ['app', 'usecases', 'core', 'media', 'data', 'jobs', 'cli']
    .flatMap(filesIn)
    .flatMap((file) => wordsOf(file, readFileSync(file, 'utf8')));

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) {
  const wanted = process.argv[2] ?? '';
  let last = '';
  for (const { file, line, text } of allWords()) {
    if (!file.includes(wanted)) continue;
    if (file !== last) console.log(`\n${file}`);
    last = file;
    console.log(`  ${String(line).padStart(4)}  ${text}`);
  }
}
