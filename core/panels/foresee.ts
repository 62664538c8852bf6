/**
 * What a panel does at once with a command that it sends: it is worked out on the panel's own copy, so that a refusal is told without waiting
 * and the new things have their identities already. Edits of the document are seen at once; what changes air is seen when the host has done it.
 */
import { type Command } from '../commands/command';
import { type Desk } from '../desk/air';
import { executeAll, type Refusal } from '../desk/execute';
import { findCommand } from '../desk/registry';
import { panelId } from './panel-messages';

/** A command that the host has not answered yet. */
export interface SentCommand {
  key: string;
  commands: readonly Command[];
  ids: readonly string[];
  /** It is seen before the host has done it. */
  foreseen: boolean;
}

export type Foreseen =
  { ok: true; sent: SentCommand; results: Record<string, unknown>[]; desk: Desk; nextId: number } | { ok: false; error: Refusal };

/** `nextId`: number of the next identity that the connection gives. Pure. */
export function foresee(
  desk: Desk,
  commands: readonly Command[],
  { session, key, frame, nextId }: { session: string; key: string; frame: number; nextId: number },
): Foreseen {
  // Undo and redo go through the history, which only the host has.
  if (commands.some((c) => findCommand(c.type)?.step))
    return { ok: true, sent: { key, commands, ids: [], foreseen: false }, results: [{}], desk, nextId };
  const ids: string[] = [];
  const newId = () => {
    const id = panelId(session, nextId + ids.length);
    ids.push(id);
    return id;
  };
  const done = executeAll(desk, commands, { frame, newId });
  if (!done.ok) return { ok: false, error: done.error };
  const foreseen = done.patches.every((p) => p.path[0] === 'show');
  return {
    ok: true,
    sent: { key, commands, ids, foreseen },
    results: done.results,
    desk: foreseen ? done.desk : desk,
    nextId: nextId + ids.length,
  };
}

/** The host's state with what was sent since done on top, as far as it can be seen already. What the host will refuse changes nothing. Pure. */
export function withSent(desk: Desk, sent: readonly SentCommand[], frame: number): Desk {
  return sent.reduce((now, { commands, ids, foreseen }) => {
    if (!foreseen) return now;
    let at = 0;
    const done = executeAll(now, commands, { frame, newId: () => ids[at++] ?? `unknown-${at}` });
    return done.ok ? done.desk : now;
  }, desk);
}
