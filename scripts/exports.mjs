// Watches over names: nothing is exported that nobody imports, and no two modules of core export types of one name.
import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import ts from 'typescript';
import { root } from './ready.mjs';

const PACKAGES = ['core/src', 'cli/src', 'web/src', 'web/e2e', 'bench/src', 'demo/src', 'core/scripts'];
/** What frameworks import by its place. */
const TAKEN_BY_PLACE = /^web\/src\/(app\/|proxy\.ts)|\.(config|setup)\.ts$|\.d\.ts$/;

const files = PACKAGES.flatMap((folder) =>
  readdirSync(join(root, folder), { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && /\.tsx?$/.test(entry.name))
    .map((entry) => relative(root, join(entry.parentPath, entry.name))),
);
const known = new Set(files);

const texts = new Map();
function textOf(file) {
  if (!texts.has(file)) texts.set(file, readFileSync(join(root, file), 'utf8'));
  return texts.get(file);
}

/** The file that a module's name stands for; null for packages of others. */
function fileOf(from, name) {
  const core = /^@bold-ruler\/core\/(.+)$/.exec(name);
  const base = core
    ? `core/src/${core[1]}/index`
    : name.startsWith('@/')
      ? `web/src/${name.slice(2)}`
      : name.startsWith('.')
        ? relative(root, resolve(root, dirname(from), name))
        : null;
  if (base === null) return null;
  return [base, `${base}.ts`, `${base}.tsx`, `${base}/index.ts`].find((path) => known.has(path)) ?? null;
}

/** What each file exports (with where it comes from, for what is passed on), and what it imports. */
function look(file) {
  const source = ts.createSourceFile(file, textOf(file), ts.ScriptTarget.Latest, true);
  const own = new Map();
  const passed = new Map();
  const all = [];
  const uses = [];
  const isExported = (node) => node.modifiers?.some(({ kind }) => kind === ts.SyntaxKind.ExportKeyword);
  const visit = (node) => {
    if (ts.isImportDeclaration(node) || ts.isExportDeclaration(node)) {
      const from = node.moduleSpecifier ? fileOf(file, node.moduleSpecifier.text) : null;
      if (ts.isExportDeclaration(node) && node.moduleSpecifier) {
        if (!node.exportClause) all.push(from);
        else if (ts.isNamedExports(node.exportClause))
          for (const { name, propertyName } of node.exportClause.elements)
            passed.set(name.text, { from, name: (propertyName ?? name).text });
      } else if (ts.isExportDeclaration(node) && node.exportClause && ts.isNamedExports(node.exportClause)) {
        for (const { name } of node.exportClause.elements) passed.set(name.text, { from: null, name: name.text });
      } else if (from && node.importClause) {
        const { name, namedBindings } = node.importClause;
        if (name) uses.push([from, 'default']);
        if (namedBindings && ts.isNamespaceImport(namedBindings)) uses.push([from, '*']);
        else for (const one of namedBindings?.elements ?? []) uses.push([from, (one.propertyName ?? one.name).text]);
      }
    } else if (
      ts.isCallExpression(node) &&
      node.expression.kind === ts.SyntaxKind.ImportKeyword &&
      ts.isStringLiteralLike(node.arguments[0])
    ) {
      const from = fileOf(file, node.arguments[0].text);
      if (from) uses.push([from, '*']);
    } else if (ts.isImportTypeNode(node) && ts.isLiteralTypeNode(node.argument)) {
      const from = fileOf(file, node.argument.literal.text);
      if (from) uses.push([from, '*']);
    } else if (isExported(node)) {
      const isType = ts.isInterfaceDeclaration(node) || ts.isTypeAliasDeclaration(node) || ts.isClassDeclaration(node);
      if (ts.isVariableStatement(node)) {
        for (const { name } of node.declarationList.declarations)
          if (ts.isIdentifier(name)) own.set(name.text, false);
          else for (const one of name.elements) own.set(one.name.text, false);
      } else if (node.name) own.set(node.name.text, isType);
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return { own, passed, all, uses };
}

const modules = new Map(files.map((file) => [file, look(file)]));

/** Where a name is really written. */
function origin(file, name, seen = new Set()) {
  const module = modules.get(file);
  if (!module || seen.has(file)) return null;
  seen.add(file);
  if (module.own.has(name)) return `${file} ${name}`;
  const passed = module.passed.get(name);
  if (passed?.from) return origin(passed.from, passed.name, seen);
  for (const from of module.all) {
    const found = from && origin(from, name, seen);
    if (found) return found;
  }
  return null;
}

const used = new Set();
for (const { uses } of modules.values())
  for (const [from, name] of uses) {
    const names = name === '*' ? namesOf(from) : [name];
    for (const one of names) {
      const at = origin(from, one);
      if (at) used.add(at);
    }
  }

/** Everything that can be imported of a file. */
function namesOf(file, seen = new Set()) {
  const module = modules.get(file);
  if (!module || seen.has(file)) return [];
  seen.add(file);
  return [
    ...module.own.keys(),
    ...module.passed.keys(),
    ...module.all.flatMap((from) => (from ? namesOf(from, seen) : [])),
  ];
}

const faults = [];
const types = new Map();
for (const [file, { own }] of modules) {
  if (TAKEN_BY_PLACE.test(file)) continue;
  for (const [name, isType] of own) {
    // A type may be there for those who take what it describes.
    const isMeant = isType && textOf(file).split(new RegExp(`\\b${name}\\b`)).length > 2;
    if (!used.has(`${file} ${name}`) && !isMeant) faults.push(`${file} exports ${name}, which nobody imports`);
    if (isType && /^core\/src\/(?!.*\.fixture\.ts$)/.test(file)) types.set(name, [...(types.get(name) ?? []), file]);
  }
}
for (const [name, places] of types)
  if (places.length > 1) faults.push(`${name} is a type of ${places.join(' and of ')}: one word for one thing`);
for (const fault of faults) console.error(fault);
if (faults.length > 0) process.exit(1);
console.log(
  `Everything that is exported is imported somewhere (${[...modules.values()].reduce((n, { own }) => n + own.size, 0)} names).`,
);
