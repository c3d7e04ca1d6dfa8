import path from 'node:path';
import ts from 'typescript';
import { describe, expect, it } from 'vitest';
import { ROOT } from './paths.ts';

/** Families whose every function rests on something published, or refers to one that does. */
const STATISTICS =
  /\/core\/src\/(special|stats|curves|charts|sequential|agreement|components|metrology|physics)\//;
/** A year, a handbook by its name, the field's own definition, or another function by name. */
const SOURCE =
  /\b(1[6-9]\d\d|20\d\d)\b|DLMF|NIST|Fresnel|common practice|by definition|from memory|house|`\w+`/i;

interface Described {
  readonly name: string;
  readonly doc: string;
  readonly statistics: boolean;
  /** Codes of the errors that the function itself throws. */
  readonly throws: ReadonlySet<string>;
}

/** Every function that a module exports, with its docstring. */
function functionsOf(file: string, text?: string): Described[] {
  const options: ts.CompilerOptions = {
    allowImportingTsExtensions: true,
    noEmit: true,
    moduleResolution: ts.ModuleResolutionKind.Bundler,
    module: ts.ModuleKind.ESNext,
    target: ts.ScriptTarget.ES2022,
    skipLibCheck: true,
    types: [],
  };
  const host = ts.createCompilerHost(options);
  if (text !== undefined) {
    const read = host.getSourceFile.bind(host);
    host.getSourceFile = (name, ...more) =>
      name === file ? ts.createSourceFile(name, text, ts.ScriptTarget.ES2022, true) : read(name, ...more);
    host.fileExists = (name) => name === file || ts.sys.fileExists(name);
  }
  const program = ts.createProgram([file], options, host);
  const checker = program.getTypeChecker();
  const module = checker.getSymbolAtLocation(program.getSourceFile(file)!)!;
  return checker.getExportsOfModule(module).flatMap((exported) => {
    const symbol = exported.flags & ts.SymbolFlags.Alias ? checker.getAliasedSymbol(exported) : exported;
    const declared = symbol.valueDeclaration;
    const body = declared && bodyOf(declared);
    if (!body) return [];
    return [
      {
        name: symbol.name,
        doc: ts.displayPartsToString(symbol.getDocumentationComment(checker)),
        statistics: STATISTICS.test(declared.getSourceFile().fileName),
        throws: thrownIn(body),
      },
    ];
  });
}

function bodyOf(declared: ts.Declaration): ts.Node | null {
  if (ts.isFunctionDeclaration(declared)) return declared;
  if (!ts.isVariableDeclaration(declared) || !declared.initializer) return null;
  const made = declared.initializer;
  return ts.isArrowFunction(made) || ts.isFunctionExpression(made) ? made : null;
}

function thrownIn(body: ts.Node): ReadonlySet<string> {
  const codes = new Set<string>();
  const walk = (node: ts.Node): void => {
    if (ts.isNewExpression(node) && node.expression.getText() === 'DomainError') {
      const [code] = node.arguments ?? [];
      if (code && ts.isStringLiteral(code)) codes.add(code.text);
    }
    ts.forEachChild(node, walk);
  };
  walk(body);
  return codes;
}

/** What a docstring lacks: words at all, an error that is thrown, a source, an example. */
function lacking({ name, doc, statistics, throws }: Described): string[] {
  if (doc.trim() === '') return [`${name}: no docstring`];
  const lacks = [...throws]
    .filter((code) => !doc.includes(code) && !doc.includes(`${code.split('.')[0]}.*`))
    .map((code) => `${name}: throws ${code}`);
  if (statistics && !SOURCE.test(doc)) lacks.push(`${name}: no source`);
  if (statistics && !/\bExample\b/.test(doc)) lacks.push(`${name}: no example`);
  return lacks;
}

describe('docstrings of what the core exports', () => {
  it('say what a function does, which errors it throws, and in statistics its source and an example', () => {
    const found = functionsOf(path.join(ROOT, 'packages/core/src/index.ts'));
    expect(found.length).toBeGreaterThan(200);
    expect(found.flatMap(lacking)).toEqual([]);
  });

  it('are found wanting where they are', () => {
    const file = path.join(ROOT, 'packages/core/src/stats/written-by-the-test.ts');
    const text = `
      class DomainError { constructor(readonly code: string) {} }
      export function bare(x: number): number { return x; }
      /** Half of a number. */
      export const half = (x: number): number => { if (x < 0) throw new DomainError('stats.negative'); return x / 2; };
      /** Half of a number (Euclid, by definition). Error: \`stats.negative\`. Example: 4 gives 2. */
      export const good = (x: number): number => { if (x < 0) throw new DomainError('stats.negative'); return x / 2; };
    `;
    expect(functionsOf(file, text).flatMap(lacking)).toEqual([
      'bare: no docstring',
      'half: throws stats.negative',
      'half: no source',
      'half: no example',
    ]);
  });
});
