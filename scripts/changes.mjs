// npm run test:changes -- [FOLDER …] [--most N] [--seed N]: changes one thing in the code at a time (an operator, a limit, a condition)
// and runs the tests that cover it. What no test notices is printed: there a law is missing. The working tree stays as it is.
import { spawn } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { basename, dirname, join } from 'node:path';
import ts from 'typescript';
import { root } from './ready.mjs';

/** The folders whose laws are to notice at least nine of ten changes, and tests elsewhere that cover them as well. */
const COVERED_BY = {
  'core/src/calendar': ['core/src/query/independent.test.ts', 'core/src/query/weeks53.test.ts'],
  'core/src/number': ['core/src/source/source.test.ts', 'core/src/query/independent.test.ts'],
  'core/src/query': ['core/src/proof', 'core/src/figure/waterfall', 'core/src/figure/pace'],
  'core/src/ruler': ['core/src/figure/forms.test.ts'],
  'core/src/highlight': ['core/src/figure/incell', 'core/src/proof/ends.test.ts'],
  'core/src/zip': ['core/src/office', 'core/src/reading/packed.test.ts', 'core/src/report'],
  'core/src/report': ['core/src/level'],
  'web/server': [],
};
/** A run that takes so many times as long as one without a change does not end. */
const TIMES = 6;

const options = { most: 40, seed: 1 };
const folders = [];
for (const [i, word] of process.argv.slice(2).entries()) {
  const before = process.argv[i + 1];
  if (/^--(most|seed)$/.test(before)) options[before.slice(2)] = Number(word);
  else if (!word.startsWith('--')) folders.push(word.replace(/\/$/, ''));
}

let missed = 0;
for (const folder of folders.length > 0 ? folders : Object.keys(COVERED_BY)) missed += await tried(folder);
process.exit(missed === 0 ? 0 : 1);

/** Tries changes in a folder, or a file. @returns whether fewer than nine of ten were noticed, as a number */
async function tried(folder) {
  const files = filesOf(folder);
  const all = files.flatMap(changesIn);
  if (all.length === 0) {
    console.error(`there is nothing to change in ${folder}`);
    process.exit(2);
  }
  const changes = sample(all, options.most, options.seed);
  const [area, tests] = Object.entries(COVERED_BY).find(
    ([name]) => folder === name || folder.startsWith(`${name}/`),
  ) ?? [folder.endsWith('.ts') ? dirname(folder) : folder, []];
  const began = Date.now();
  if ((await run(null, [area, ...tests], Infinity)) !== 'unnoticed') {
    console.error(`the tests of ${area} fail without a change`);
    process.exit(2);
  }
  const patience = (Date.now() - began) * TIMES + 30_000;
  const survivors = [];
  const queue = [...changes];
  await Promise.all(
    Array.from({ length: Math.max(1, availableParallelism()) }, async () => {
      for (let change = queue.shift(); change; change = queue.shift()) {
        // The nearest tests first: most changes end there.
        const near = nearest(change.file);
        const isNoticed =
          (near && (await run(change, [near], patience)) !== 'unnoticed') ||
          (await run(change, [area, ...tests], patience)) !== 'unnoticed';
        if (!isNoticed) survivors.push(change);
      }
    }),
  );
  for (const { file, line, was, now } of survivors) console.log(`unnoticed: ${file}:${line}: ${was} → ${now}`);
  const share = (changes.length - survivors.length) / changes.length;
  console.log(
    `${folder}: ${changes.length - survivors.length} of ${changes.length} changes noticed (of ${all.length} there are)`,
  );
  return share < 0.9 ? 1 : 0;
}

function filesOf(folder) {
  if (/\.m?ts$/.test(folder)) return [folder];
  return readdirSync(join(root, folder), { recursive: true })
    .map((name) => join(folder, String(name)))
    .filter((path) => /\.m?ts$/.test(path) && !/\.(test|fixture|d)\.ts$/.test(path) && basename(path) !== 'index.ts')
    .sort();
}

/** The test beside a file, where it has one of its own. */
function nearest(file) {
  const test = file.replace(/\.m?ts$/, '.test.ts');
  try {
    readFileSync(join(root, test));
    return test;
  } catch {
    return null;
  }
}

/** Everything in a file that is changed, one at a time. */
function changesIn(file) {
  const text = readFileSync(join(root, file), 'utf8');
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true);
  const found = [];
  const say = (node, now) => {
    const [from, to] = [node.getStart(source), node.getEnd()];
    const line = source.getLineAndCharacterOfPosition(from).line + 1;
    found.push({ file, from, to, line, was: text.slice(from, to), now });
  };
  const SWAPPED = {
    '<': '<=',
    '<=': '<',
    '>': '>=',
    '>=': '>',
    '===': '!==',
    '!==': '===',
    '+': '-',
    '-': '+',
    '*': '/',
    '/': '*',
    '&&': '||',
    '||': '&&',
    '%': '*',
  };
  const isType = (node) => ts.isTypeNode(node) || ts.isInterfaceDeclaration(node) || ts.isTypeAliasDeclaration(node);
  const visit = (node) => {
    if (isType(node) || ts.isImportDeclaration(node) || ts.isThrowStatement(node)) return;
    if (ts.isBinaryExpression(node)) {
      const { operatorToken: operator, left, right } = node;
      const swapped = SWAPPED[operator.getText(source)];
      const isText = [left, right].some((side) => ts.isStringLiteralLike(side) || ts.isTemplateExpression(side));
      if (swapped && !(isText && /[+-]/.test(swapped))) say(operator, swapped);
    }
    if (ts.isNumericLiteral(node)) say(node, String(Number(node.text) + 1));
    if (node.kind === ts.SyntaxKind.TrueKeyword) say(node, 'false');
    if (node.kind === ts.SyntaxKind.FalseKeyword) say(node, 'true');
    if (ts.isIfStatement(node) || ts.isWhileStatement(node))
      say(node.expression, `!(${node.expression.getText(source)})`);
    if (ts.isConditionalExpression(node)) say(node.condition, `!(${node.condition.getText(source)})`);
    if (ts.isPropertyAccessExpression(node) && node.expression.getText(source) === 'Math') {
      const other = { min: 'max', max: 'min', floor: 'ceil', ceil: 'floor', round: 'floor' }[node.name.text];
      if (other) say(node.name, other);
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}

/** So many of a list, spread over all of it, the same for the same seed. */
function sample(list, most, seed) {
  let state = seed * 2654435761;
  const random = () => (state = (Math.imul(state, 1103515245) + 12345) >>> 0) / 2 ** 32;
  return list
    .map((one) => [random(), one])
    .sort(([a], [b]) => a - b)
    .slice(0, most)
    .map(([, one]) => one);
}

/** Runs tests with a change in the code. @returns `noticed`, `unnoticed`, or `endless` */
function run(change, tests, patience) {
  return new Promise((resolve) => {
    const child = spawn('npx', ['vitest', 'run', '--project', 'together', '--bail=1', '--reporter=dot', ...tests], {
      cwd: root,
      stdio: 'ignore',
      detached: true,
      env: {
        ...process.env,
        ...(change ? { BOLD_RULER_CHANGE: JSON.stringify(change) } : {}),
        BOLD_RULER_WORKERS: '1',
      },
    });
    const end = () => process.kill(-child.pid, 'SIGKILL');
    const timer = Number.isFinite(patience) ? setTimeout(() => (end(), resolve('endless')), patience) : null;
    child.on('close', (status) => {
      if (timer) clearTimeout(timer);
      resolve(status === 0 ? 'unnoticed' : 'noticed');
    });
  });
}
