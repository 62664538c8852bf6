/** Places in JSON text by its syntax tree: from a path to where it stands, and from a place to its path. */
import { syntaxTree } from '@codemirror/language';
import { type EditorState } from '@codemirror/state';
import { type TextPath } from '#core/automation/macro-text';

type SyntaxNode = ReturnType<typeof syntaxTree>['topNode'];

const VALUES = new Set(['Object', 'Array', 'String', 'Number', 'True', 'False', 'Null']);
const valueIn = (node: SyntaxNode): SyntaxNode | null => {
  for (let child = node.firstChild; child; child = child.nextSibling) if (VALUES.has(child.name)) return child;
  return null;
};

/** The name of a property, without its quotes. */
export function nameIn(state: EditorState, property: SyntaxNode): string {
  const name = property.getChild('PropertyName');
  try {
    return name ? String(JSON.parse(state.sliceDoc(name.from, name.to))) : '';
  } catch {
    return '';
  }
}

const propertiesOf = (object: SyntaxNode): SyntaxNode[] => object.getChildren('Property');
const itemsOf = (array: SyntaxNode): SyntaxNode[] => {
  const items: SyntaxNode[] = [];
  for (let child = array.firstChild; child; child = child.nextSibling) if (VALUES.has(child.name)) items.push(child);
  return items;
};

/** Where a path stands; as much of it as there is. Characters from the beginning. */
export function placeOfPath(state: EditorState, path: TextPath): { from: number; to: number } {
  let node = valueIn(syntaxTree(state).topNode);
  let found = node ?? syntaxTree(state).topNode;
  for (const step of path) {
    if (!node) break;
    if (node.name === 'Object') {
      const property: SyntaxNode | undefined = propertiesOf(node).find((p) => nameIn(state, p) === step);
      if (!property) break;
      node = valueIn(property);
      found = node ?? property;
    } else if (node.name === 'Array' && typeof step === 'number') {
      node = itemsOf(node)[step] ?? null;
      if (node) found = node;
    } else break;
  }
  // Of what goes over lines, the first is enough to be found.
  const line = state.doc.lineAt(found.from);
  return { from: found.from, to: Math.min(found.to, line.to) };
}

/** The path of the value or name at a node, and the object that it is in. */
export function pathOfNode(state: EditorState, node: SyntaxNode): TextPath {
  const path: TextPath = [];
  for (let at: SyntaxNode | null = node; at?.parent; at = at.parent) {
    const parent: SyntaxNode = at.parent;
    if (at.name === 'Property') path.unshift(nameIn(state, at));
    else if (parent.name === 'Array' && VALUES.has(at.name)) {
      const { from } = at;
      path.unshift(itemsOf(parent).findIndex((item) => item.from === from));
    }
  }
  return path;
}

/** The text of a property of the object around a path that begins with a step, as JSON says it; null where there is none. */
export function stepProperty(state: EditorState, path: TextPath, name: string): string | null {
  const object = placeNode(state, path.slice(0, 2));
  const property = object?.name === 'Object' ? propertiesOf(object).find((p) => nameIn(state, p) === name) : undefined;
  const value = property && valueIn(property);
  if (value?.name !== 'String') return null;
  try {
    return String(JSON.parse(state.sliceDoc(value.from, value.to)));
  } catch {
    return null;
  }
}

function placeNode(state: EditorState, path: TextPath): SyntaxNode | null {
  let node = valueIn(syntaxTree(state).topNode);
  for (const step of path) {
    if (node?.name === 'Object') {
      const property: SyntaxNode | undefined = propertiesOf(node).find((p) => nameIn(state, p) === step);
      node = property ? valueIn(property) : null;
    } else node = node?.name === 'Array' && typeof step === 'number' ? (itemsOf(node)[step] ?? null) : null;
  }
  return node;
}
