/** The steps of a macro as text: typed, completed, its faults marked by line. The list and the text are one thing. */
import { autocompletion, type CompletionContext, type CompletionResult } from '@codemirror/autocomplete';
import { json, jsonParseLinter } from '@codemirror/lang-json';
import { HighlightStyle, syntaxHighlighting, syntaxTree } from '@codemirror/language';
import { type Diagnostic, linter, lintGutter } from '@codemirror/lint';
import { EditorState } from '@codemirror/state';
import { EditorView } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { basicSetup } from 'codemirror';
import { nanoid } from 'nanoid';
import { useEffect, useRef, useState } from 'react';
import { type Macro } from '#core/automation/document';
import { macroText, readMacroText } from '#core/automation/macro-text';
import { namesAt, valuesAt } from '#core/automation/text-choices';
import { type ShowClient } from '#engine/client/show-client';
import { useShowClient } from '../client/show-client';
import { nameIn, pathOfNode, placeOfPath, stepProperty } from './json-places';

/** How long typing rests before it is looked at, milliseconds. */
const REST_MS = 300;

const LOOK = EditorView.theme(
  {
    '&': { height: '100%', fontSize: '14px', backgroundColor: 'transparent' },
    '.cm-content': { fontFamily: 'var(--font-mono, monospace)', caretColor: '#e2c58a' },
    '.cm-gutters': { backgroundColor: 'transparent', color: '#8aa3ad', border: 'none' },
    '.cm-activeLine, .cm-activeLineGutter': { backgroundColor: 'rgba(255, 255, 255, 0.04)' },
    '.cm-tooltip': { backgroundColor: '#14201f', border: '1px solid #2c4046' },
    '.cm-tooltip-autocomplete > ul > li[aria-selected]': { backgroundColor: '#2c4046', color: '#e8efec' },
    '.cm-cursor': { borderLeftColor: '#e2c58a' },
    '&.cm-focused .cm-selectionBackground, .cm-selectionBackground': { backgroundColor: '#2c4a52 !important' },
  },
  { dark: true },
);

const COLOURS = HighlightStyle.define([
  { tag: tags.propertyName, color: '#8aa3ad' },
  { tag: tags.string, color: '#e8efec' },
  { tag: [tags.number, tags.bool, tags.null], color: '#e2c58a' },
  { tag: [tags.brace, tags.squareBracket, tags.separator], color: '#6f8790' },
]);

const macroNow = (client: ShowClient, id: string): Macro | undefined => client.state.desk.show.automation.macros.find((m) => m.id === id);

/** Names and values that can stand where the caret is. */
function complete(client: ShowClient, macroId: string, context: CompletionContext): CompletionResult | null {
  const { state, pos } = context;
  const macro = macroNow(client, macroId);
  const node = syntaxTree(state).resolveInner(pos, -1);
  if (!macro) return null;
  const word = context.matchBefore(/"?[\w.-]*/);
  const from = word?.from ?? pos;
  const property =
    node.name === 'Property' ? node : node.name === 'PropertyName' ? null : node.parent?.name === 'Property' ? node.parent : null;
  const isName = node.name === 'PropertyName' || node.name === 'Object' || (node.name === '⚠' && node.parent?.name === 'Object');
  if (property && !isName) {
    const path = pathOfNode(state, property);
    const list = valuesAt(client.state.desk.show, macro, path, stepProperty(state, path, 'do'));
    return { from, options: list.map(({ text, about }) => ({ label: text, detail: about.slice(0, 70) })), validFor: /^"?[\w.-]*"?$/ };
  }
  if (!isName || (!context.explicit && word?.text === '')) return null;
  const object = node.name === 'Object' ? node : node.parent?.name === 'Property' ? node.parent.parent : node.parent;
  if (!object) return null;
  const path = pathOfNode(state, object);
  const there = new Set(object.getChildren('Property').map((p) => nameIn(state, p)));
  const list = namesAt(path, stepProperty(state, path, 'do')).filter((n) => !there.has(n.text));
  return {
    from,
    options: list.map(({ text, about }) => ({ label: `"${text}"`, apply: `"${text}": `, detail: about.slice(0, 70) })),
    validFor: /^"?\w*"?$/,
  };
}

/** Every fault of the text, with its place; puts it into the macro when there are none. */
function look(client: ShowClient, macroId: string, view: EditorView, put: (text: string, value: unknown) => string | null): Diagnostic[] {
  const syntax = jsonParseLinter()(view);
  if (syntax.length > 0) return syntax;
  const macro = macroNow(client, macroId);
  const text = view.state.doc.toString();
  if (!macro) return [];
  const value: unknown = JSON.parse(text);
  const { faults } = readMacroText(client.state.desk.show, macro, value, () => nanoid(12));
  if (faults.length === 0) {
    const refused = put(text, value);
    return refused === null ? [] : [{ from: 0, to: Math.min(1, text.length), severity: 'error', message: refused }];
  }
  return faults.slice(0, 100).map(({ path, message }) => ({
    ...placeOfPath(view.state, path),
    severity: 'error' as const,
    message: `${path.map((p) => (typeof p === 'number' ? p + 1 : p)).join(' › ') || 'The macro'} ${message}.`,
  }));
}

export default function MacroText({ macro }: { macro: Macro }) {
  const client = useShowClient();
  const place = useRef<HTMLDivElement>(null);
  const editor = useRef<EditorView | null>(null);
  /** The text that the macro last came to, by typing or from elsewhere. */
  const known = useRef('');
  const [faults, setFaults] = useState(0);
  const { id } = macro;

  useEffect(() => {
    const parent = place.current;
    const first = macroNow(client, id);
    if (!parent || !first) return undefined;
    known.current = macroText(first);
    const put = (text: string, value: unknown): string | null => {
      const now = macroNow(client, id);
      if (!now || text === known.current) return null;
      const { words } = readMacroText(client.state.desk.show, now, value, () => nanoid(12));
      if (!words) return null;
      const { steps, asks, ...head } = words;
      const done = client.dispatchAll([
        { type: 'macro.set', args: { macro: id, ...head } },
        { type: 'macro.setAsks', args: { macro: id, asks } },
        { type: 'step.setAll', args: { macro: id, steps } },
      ]);
      if (!done.ok) return done.error.message;
      const after = macroNow(client, id);
      known.current = after ? macroText(after) : text;
      return null;
    };
    const view = new EditorView({
      parent,
      state: EditorState.create({
        doc: known.current,
        extensions: [
          basicSetup,
          json(),
          syntaxHighlighting(COLOURS),
          lintGutter(),
          linter(
            (v) => {
              const found = look(client, id, v, put);
              setFaults(found.length);
              return found;
            },
            { delay: REST_MS },
          ),
          autocompletion({ override: [(context) => complete(client, id, context)] }),
          EditorView.lineWrapping,
          EditorView.contentAttributes.of({ 'aria-label': 'Macro as text' }),
          LOOK,
        ],
      }),
    });
    editor.current = view;
    return () => {
      editor.current = null;
      view.destroy();
    };
  }, [client, id]);

  // What is changed elsewhere stands here too; not while it is the text itself that has changed it.
  const now = macroText(macro);
  useEffect(() => {
    const view = editor.current;
    if (!view || now === known.current) return;
    known.current = now;
    if (view.state.doc.toString() !== now) view.dispatch({ changes: { from: 0, to: view.state.doc.length, insert: now } });
  }, [now]);

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div ref={place} className="min-h-0 flex-1 overflow-hidden" data-role="macro-text" />
      <p role="status" className={`shrink-0 border-t border-line px-2 py-1 text-[13px] ${faults > 0 ? 'text-caution' : 'text-muted'}`}>
        {faults > 0
          ? `${faults === 1 ? 'One fault' : `${faults} faults`}: the macro stays as it was until ${faults === 1 ? 'it is' : 'they are'} mended.`
          : 'What is typed counts as soon as it has no faults. Ctrl Space completes; undo of the show takes it back.'}
      </p>
    </div>
  );
}
