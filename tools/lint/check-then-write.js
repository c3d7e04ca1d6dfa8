import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';

/**
 * What is looked at before a change is looked at in the transaction that makes the change: otherwise somebody else changes it
 * in between. Reported is a write through a store, or a transaction, after something was read outside of it in the same
 * function. Whether the person may do it (`classForInstructor`, `classForMember`) is no look at what is changed.
 */

const WRITES =
  /\.(insert|update|del|delete|merge)\(|insertRows\(|insertOf\(|\b(insert into|delete from)\b|\bupdate \w+ set\b/;
const HEAD = /^ {2,4}(\w+): (?:async )?\(|^(?:export )?(?:async )?function (\w+)\(/gm;
const STORE = /Store$/;
const ACCESS = /^classFor(Instructor|Member)$/;

/** The names of the functions that write, by the texts of the stores that they stand in. */
export function writingNames(texts) {
  const names = new Set();
  for (const text of texts) {
    const heads = [...text.matchAll(HEAD)];
    heads.forEach((head, i) => {
      const body = text.slice(head.index, heads[i + 1]?.index ?? text.length);
      if (WRITES.test(body)) names.add(head[1] ?? head[2]);
    });
  }
  return names;
}

const storeTexts = (folder) =>
  readdirSync(folder, { recursive: true })
    .filter((file) => file.endsWith('.store.ts'))
    .map((file) => readFileSync(path.join(folder, file), 'utf8'));

/** Read once a run: every file asks for them. */
const known = new Map();
function writesIn(folder) {
  if (!known.has(folder)) known.set(folder, writingNames(storeTexts(folder)));
  return known.get(folder);
}

const isOutside = (node) => node?.type === 'Identifier' && node.name === 'db';
/** `someStore(db)`: a store outside of any transaction. */
const makesStore = (node) =>
  node?.type === 'CallExpression' &&
  node.callee.type === 'Identifier' &&
  STORE.test(node.callee.name) &&
  isOutside(node.arguments[0]);

/** Every node under one, in the order of the text. */
function* under(node) {
  yield node;
  for (const key of Object.keys(node)) {
    if (key === 'parent') continue;
    for (const child of [node[key]].flat()) if (child?.type) yield* under(child);
  }
}

/** Whether a call makes a transaction of what stands outside of one. */
const opens = ({ callee, arguments: given }) =>
  (callee.property?.name === 'transaction' && isOutside(callee.object)) ||
  (callee.name === 'oneAtATime' && isOutside(given[0]));

/** What a call does to the database outside of a transaction: nothing, a read, or a change. */
function effectOf(call, isStore, writes) {
  const { callee } = call;
  if (opens(call)) return 'change';
  if (callee.type === 'MemberExpression') {
    if (!makesStore(callee.object) && !isStore(callee.object)) return null;
    return writes.has(callee.property.name) ? 'change' : 'read';
  }
  if (callee.type !== 'Identifier' || !isOutside(call.arguments[0])) return null;
  if (writes.has(callee.name)) return 'change';
  return ACCESS.test(callee.name) || STORE.test(callee.name) ? null : 'read';
}

/** Whether a call is waited for, by itself or in a list of several. */
function isAwaited(call) {
  let node = call.parent;
  while (/^(MemberExpression|ArrayExpression|TSNonNullExpression|SpreadElement)$/.test(node.type))
    node = node.parent;
  if (node.type === 'CallExpression' && node.callee.object?.name === 'Promise') node = node.parent;
  return node.type === 'AwaitExpression';
}

const isFunction = (node) => /^(Arrow)?Function(Expression|Declaration)$/.test(node?.type ?? '');
/** A function that stands for itself: of a module, a member of what a service gives, or what answers a route. */
const isOfItsOwn = (node) =>
  isFunction(node) &&
  (node.type === 'FunctionDeclaration' ||
    node.parent?.type === 'Property' ||
    node.parent?.parent?.parent?.type === 'Program' ||
    node.parent?.callee?.name === 'handle');
const nameOf = (fn) => fn.id?.name ?? (fn.parent?.type === 'VariableDeclarator' ? fn.parent.id.name : null);

export default {
  meta: {
    type: 'problem',
    schema: [{ type: 'object', properties: { stores: { type: 'string' }, writes: { type: 'array' } } }],
    messages: { apart: 'looked at outside of the transaction that changes it: {{read}}' },
  },
  create(context) {
    const { stores: folder, writes: named } = context.options[0];
    const writes = new Set(named ?? writesIn(folder));
    const stores = new Set();
    const variableOf = (node) => {
      for (let scope = context.sourceCode.getScope(node); scope; scope = scope.upper) {
        if (scope.set.has(node.name)) return scope.set.get(node.name);
      }
      return null;
    };
    const isStore = (node) => node.type === 'Identifier' && stores.has(variableOf(node));

    const check = (fn) => {
      let read = null;
      let skippedUntil = -1;
      for (const node of under(fn.body)) {
        if (node.range[0] < skippedUntil) continue;
        // A member within is looked at on its own.
        if (isOfItsOwn(node)) skippedUntil = node.range[1];
        if (node.type !== 'CallExpression') continue;
        const effect = effectOf(node, isStore, writes);
        if (effect === 'change' && read !== null) {
          context.report({ node, messageId: 'apart', data: { read: context.sourceCode.getText(read) } });
          return;
        }
        if (effect === 'change') skippedUntil = node.range[1];
        if (effect === 'read' && isAwaited(node)) read = node.callee;
      }
    };
    const functions = [];
    const keep = (node) => {
      if (isOfItsOwn(node)) functions.push(node);
    };
    return {
      VariableDeclarator(node) {
        if (node.id.type === 'Identifier' && makesStore(node.init)) stores.add(variableOf(node.id));
      },
      FunctionDeclaration: keep,
      ArrowFunctionExpression: keep,
      FunctionExpression: keep,
      'Program:exit'() {
        // A function of the file that changes something is a change where it is called, as a store's is.
        for (const fn of functions) {
          const calls = [...under(fn.body)].filter((node) => node.type === 'CallExpression');
          const changes = calls.some((call) => effectOf(call, isStore, writes) === 'change');
          if (changes && nameOf(fn)) writes.add(nameOf(fn));
        }
        functions.forEach(check);
      },
    };
  },
};
