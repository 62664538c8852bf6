/** The finder: rooms, actions, pictures and commands by name, with their keys. It asks for what is missing, and for a hold where there is one. */
import { Command } from 'cmdk';
import { useMemo, useState } from 'react';
import { findAction } from '#core/control/actions';
import { type CommandSpec } from '#core/commands/command';
import { asksForHold } from '#core/desk/registry';
import { fieldsOf } from '#core/schema/fields';
import { useKeyLayout } from '../client/hands';
import { useHere } from '../client/here';
import { useSend, useShow, useShowClient } from '../client/show-client';
import { handsOf, perform, useWorld } from '../control/do';
import { Dialog } from '../parts/dialog';
import { HoldButton } from '../parts/hold-button';
import { ArgumentForm } from './argument-form';
import { type Entry, finderEntries } from './finder-entries';

/** Rows that are drawn at once: a search narrows them down. */
const MOST_ROWS = 60;

/** How well an entry fits words: all must be in it; those of its title, and at its beginning, count most. */
function fit({ title, about, id, key }: Entry, words: readonly string[]): number {
  const name = title.toLowerCase();
  const all = `${name} ${about.toLowerCase()} ${id.toLowerCase()} ${key.toLowerCase()}`;
  if (!words.every((w) => all.includes(w))) return 0;
  return 1 + words.reduce((sum, w) => sum + (name.startsWith(w) ? 4 : name.includes(` ${w}`) ? 3 : name.includes(w) ? 2 : 0), 0);
}

/** What fits, the best first. */
function best(entries: readonly Entry[], text: string): Entry[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  return entries
    .map((entry) => ({ entry, score: fit(entry, words) }))
    .filter(({ score }) => score > 0)
    .sort((a, b) => b.score - a.score)
    .slice(0, MOST_ROWS)
    .map(({ entry }) => entry);
}

function Row({ entry, onSelect }: { entry: Entry; onSelect: () => void }) {
  return (
    <Command.Item
      value={entry.id}
      onSelect={onSelect}
      className="flex cursor-pointer items-baseline gap-3 rounded-[3px] px-2 py-1 data-[selected=true]:bg-raised"
    >
      <span className="shrink-0 font-semibold">{entry.title}</span>
      <span className="min-w-0 flex-1 truncate text-xs text-muted">{entry.about}</span>
      {entry.key && <kbd className="figures shrink-0 text-[13px] text-straw">{entry.key}</kbd>}
    </Command.Item>
  );
}

type Pending = { kind: 'form'; spec: CommandSpec } | { kind: 'hold'; title: string; act: () => void };

/** Ctrl+K: finds anything by name, asks for what it needs, and does it. */
export function CommandFinder({ open, onClose }: { open: boolean; onClose: () => void }) {
  const [pending, setPending] = useState<Pending | null>(null);
  const close = () => {
    setPending(null);
    onClose();
  };
  const title = pending === null ? 'Find anything' : pending.kind === 'form' ? pending.spec.title : pending.title;
  return (
    <Dialog open={open} onClose={close} title={title} wide>
      {pending === null ? (
        <Search onPending={setPending} onClose={close} />
      ) : pending.kind === 'form' ? (
        <ArgumentForm spec={pending.spec} onDone={close} />
      ) : (
        <HoldButton
          look="air"
          autoFocus
          onHeld={() => {
            close();
            pending.act();
          }}
        >
          Hold to do it: {pending.title}
        </HoldButton>
      )}
    </Dialog>
  );
}

function Search({ onPending, onClose }: { onPending: (pending: Pending) => void; onClose: () => void }) {
  const client = useShowClient();
  const send = useSend();
  const world = useWorld();
  const layout = useKeyLayout();
  const room = useHere((s) => s.room);
  const show = useShow(({ desk }) => desk.show);
  const [text, setText] = useState('');
  const [chosen, setChosen] = useState('');
  const entries = useMemo(() => finderEntries(show, layout, room), [show, layout, room]);
  const found = useMemo(() => best(entries, text), [entries, text]);
  /** The best is chosen with the very letter that found it: Enter never does what was chosen a letter ago. */
  const search = (next: string) => {
    setText(next);
    setChosen(best(entries, next)[0]?.id ?? '');
  };
  /** After the finder has closed, so that what takes the focus keeps it. */
  const after = (act: () => void) => {
    onClose();
    setTimeout(act, 50);
  };
  const run = ({ title, run: what }: Entry) => {
    if (what.kind === 'picture') return after(() => send('picture.setNext', { picture: what.id }));
    if (what.kind === 'command') {
      if (fieldsOf(what.spec.args).length > 0 || what.spec.hold) return onPending({ kind: 'form', spec: what.spec });
      return after(() => send(what.spec.type));
    }
    const action = findAction(what.id);
    if (action?.takes !== 'press') return undefined;
    const act = () => perform(world, action.run(handsOf(client), what.args));
    const meaning = action.run(handsOf(client), what.args);
    if (meaning.kind === 'command' && asksForHold(client.state.desk, meaning)) return onPending({ kind: 'hold', title, act });
    return after(act);
  };
  return (
    <Command className="flex min-h-0 flex-col gap-2" label="Everything" shouldFilter={false} value={chosen} onValueChange={setChosen}>
      <Command.Input autoFocus placeholder="take, record, sound, a name, a key…" value={text} onValueChange={search} />
      <Command.List className="max-h-[56vh] overflow-auto">
        <Command.Empty className="p-2 text-muted">Nothing has such a name. Try a word of what it does.</Command.Empty>
        {found.map((entry) => (
          <Row key={entry.id} entry={entry} onSelect={() => run(entry)} />
        ))}
      </Command.List>
    </Command>
  );
}
