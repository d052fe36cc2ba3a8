// Prints what the TypeScript compiler says each name means, for the files of a
// folder:
//
//   node typescript.js TYPESCRIPT DIR [FOLDER...]
//
// TYPESCRIPT is the folder of the typescript package; FOLDERs are the parts of
// DIR to ask about, all of it by default.
'use strict';
const path = require('path');
const fs = require('fs');
const ts = require(path.join(path.resolve(process.argv[2]), 'lib', 'typescript.js'));
const root = path.resolve(process.argv[3]);
const parts = process.argv.slice(4).map(p => path.join(root, p));

function files(dir, out) {
  for (const e of fs.readdirSync(dir, { withFileTypes: true })) {
    const p = path.join(dir, e.name);
    if (e.isDirectory()) {
      if (e.name !== 'node_modules' && e.name !== '.git') files(p, out);
    } else if (/\.(ts|tsx|mts|cts|js|jsx|mjs|cjs)$/.test(e.name)) {
      out.push(p);
    }
  }
  return out;
}

const names = [];
for (const p of parts.length ? parts : [root]) files(p, names);
const settings = ts.findConfigFile(root, ts.sys.fileExists, 'tsconfig.json');
let options = {};
if (settings) {
  options = ts.parseJsonConfigFileContent(ts.readConfigFile(settings, ts.sys.readFile).config, ts.sys, path.dirname(settings)).options;
}
Object.assign(options, { noEmit: true, allowJs: true, checkJs: true, skipLibCheck: true, maxNodeModuleJsDepth: 0, target: ts.ScriptTarget.ES2022 });
if (!options.moduleResolution) options.moduleResolution = ts.ModuleResolutionKind.Node10 || 2;
if (!options.module) options.module = ts.ModuleKind.CommonJS;
const program = ts.createProgram(names, options);
const checker = program.getTypeChecker();
const asked = new Set(names.map(n => n.split(path.sep).join('/')));

function place(file, at) {
  const { line, character } = file.getLineAndCharacterOfPosition(at);
  const start = file.getPositionOfLineAndCharacter(line, 0);
  const column = Buffer.byteLength(file.text.slice(start, start + character)) + 1;
  return path.relative(root, file.fileName) + ':' + (line + 1) + ':' + column;
}

// isType says whether a name stands where a type belongs.
function isType(node) {
  for (let n = node.parent; n; n = n.parent) {
    if (ts.isTypeNode(n)) return n.kind !== ts.SyntaxKind.TypeQuery;
    if (!ts.isQualifiedName(n)) return false;
  }
  return false;
}

function target(symbol, node) {
  if (symbol.flags & ts.SymbolFlags.Alias) symbol = checker.getAliasedSymbol(symbol);
  const declarations = (symbol.declarations || []).filter(d => d.kind !== ts.SyntaxKind.SourceFile || d.fileName);
  if (!declarations.length) return null;
  const types = declarations.filter(d => ts.isInterfaceDeclaration(d) || ts.isTypeAliasDeclaration(d) || ts.isClassLike(d) || ts.isEnumDeclaration(d));
  const imported = node.parent && (ts.isImportSpecifier(node.parent) || ts.isExportSpecifier(node.parent) || ts.isImportClause(node.parent));
  if (imported && types.length && symbol.valueDeclaration && !types.includes(symbol.valueDeclaration)) return null;
  const d = isType(node) && types.length ? types[0] : symbol.valueDeclaration || declarations[0];
  const file = d.getSourceFile();
  if (path.relative(root, file.fileName).startsWith('..') || file.fileName.includes('node_modules')) return '';
  if (d.kind === ts.SyntaxKind.SourceFile) return place(file, 0);
  const name = ts.getNameOfDeclaration(d) || d;
  return place(file, name.getStart(file));
}

// others are further places that say the same: the module, where what it exports as a whole is written out, and the value of
// which { name } makes a member.
function others(symbol) {
  if (symbol.flags & ts.SymbolFlags.Alias) symbol = checker.getAliasedSymbol(symbol);
  const places = [];
  for (const d of symbol.declarations || []) {
    const file = d.getSourceFile();
    if (ts.isBinaryExpression(d) && ts.isPropertyAccessExpression(d.left) && d.left.getText() === 'module.exports') places.push(place(file, 0));
    if (ts.isShorthandPropertyAssignment(d)) {
      const value = checker.getShorthandAssignmentValueSymbol(d);
      const t = value && target(value, d.name);
      if (t) places.push(t);
    }
  }
  return places;
}

// each are the places of all members that a name means of values of several types, besides the first.
function each(symbol, first) {
  if (!(symbol.flags & ts.SymbolFlags.Transient) || !(symbol.flags & (ts.SymbolFlags.Property | ts.SymbolFlags.Method))) return [];
  const places = (symbol.declarations || []).filter(d => !d.getSourceFile().fileName.includes('node_modules'))
    .map(d => place(d.getSourceFile(), (ts.getNameOfDeclaration(d) || d).getStart(d.getSourceFile())));
  return [...new Set(places)].filter(p => p !== first);
}

// isModule says whether a name is one of those by which a script speaks of what it exports.
function isModule(file, node) {
  return /\.[cm]?jsx?$/.test(file.fileName) && (node.text === 'module' || node.text === 'exports');
}

// propertyOf is the property that the name of a JSX attribute or of a part of an object or a pattern means, by the type
// that is expected there, or of the value that is taken apart.
function propertyOf(node) {
  const parent = node.parent;
  if (ts.isJsxAttribute(parent) && parent.name === node) {
    const type = checker.getContextualType(parent.parent);
    return type && type.getProperty(node.text);
  }
  if ((ts.isPropertyAssignment(parent) || ts.isShorthandPropertyAssignment(parent)) && parent.name === node && ts.isObjectLiteralExpression(parent.parent)) {
    const type = checker.getContextualType(parent.parent);
    const symbol = type && checker.getNonNullableType(type).getProperty(node.text);
    return symbol && symbol.declarations && symbol.declarations.includes(parent) ? undefined : symbol;
  }
  if (ts.isBindingElement(parent) && ts.isObjectBindingPattern(parent.parent) && (parent.propertyName || parent.name) === node && !parent.dotDotDotToken) {
    const type = checker.getTypeAtLocation(parent.parent);
    return type && checker.getNonNullableType(type).getProperty(node.text);
  }
  return undefined;
}

// isBoth says whether a name is that of a value and of a member at once.
function isBoth(node) {
  const parent = node.parent;
  return ts.isShorthandPropertyAssignment(parent) || ts.isBindingElement(parent) && !parent.propertyName;
}

const out = [];
function visit(file, node) {
  if (ts.isIdentifier(node) && node.parent) {
    const property = propertyOf(node);
    if (property) {
      const t = target(property, node);
      const here = place(file, node.getStart(file));
      if (t && t !== here) {
        out.push(JSON.stringify(isBoth(node) ? { query: here, target: t, used: true } : { query: here, target: t }));
        if (!isBoth(node)) for (const one of each(property, t)) out.push(JSON.stringify({ query: here, target: one, above: true }));
      }
    }
  }
  if (ts.isIdentifier(node) && !(node.parent && node.parent.name === node && !ts.isPropertyAccessExpression(node.parent) && !ts.isImportSpecifier(node.parent) && !ts.isImportClause(node.parent) && !ts.isExportSpecifier(node.parent))) {
    let symbol = checker.getSymbolAtLocation(node);
    if (node.parent && ts.isShorthandPropertyAssignment(node.parent)) symbol = checker.getShorthandAssignmentValueSymbol(node.parent);
    if (symbol && !isModule(file, node) && symbol.escapedName !== 'unknown' && symbol.escapedName !== 'undefined') {
      const t = target(symbol, node);
      const here = place(file, node.getStart(file));
      if (t !== null && t !== here) {
        for (const one of [t, ...others(symbol)]) out.push(JSON.stringify({ query: here, target: one }));
        for (const one of each(symbol, t)) out.push(JSON.stringify({ query: here, target: one, above: true }));
      }
    }
  }
  ts.forEachChild(node, c => visit(file, c));
}
for (const file of program.getSourceFiles()) {
  if (asked.has(file.fileName)) visit(file, file);
}
process.stdout.write(out.join('\n') + '\n');
