/** Who listens, to what, and how they are spoken to. */
import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { channelsOf } from '#core/sound/channels';
import { type Listener, LISTENER_KINDS, type ListenerKind, RULES } from '#core/sound/document';
import { routingReport } from '#core/sound/routing/findings';
import { hearsOf } from '#core/sound/routing/hears';
import { useShowClient, useShow, useSend } from '../client/show-client';
import { setTalkTarget, talkTarget, useTalkTarget } from '../client/talk-target';
import { Button } from '../parts/button';
import { HoldButton } from '../parts/hold-button';
import { NumberField } from '../parts/number-field';
import { Popover } from '../parts/popover';
import { TalkButton } from '../parts/talk-button';
import { setSoundRoom, useSoundRoom } from './room-state';
import { dbWords, KIND_WORDS, pairWords, RULE_WORDS } from './words';

const TALKS =
  'Hold to speak. It never reaches the programme. The key left of 1 speaks to all guests, with Shift to the room, with Alt to the person marked Alt.';

/** What somebody hears, loudest first, by which path and why. */
function Hears({ id }: { id: string }) {
  const host = useShowClient();
  useShow(({ desk: { show } }) => ({ sound: show.sound, sources: show.sources, seats: show.seats }));
  const { graph } = routingReport(host.state.desk.show);
  const ear = graph.index.get(`ear:${id}`);
  const heard = ear === undefined ? [] : hearsOf(graph, ear);
  if (heard.length === 0) return <p className="px-2 py-1 text-muted">Nothing. Plug their bus into outputs, or open sends in the matrix.</p>;
  return (
    <ol className="border-t border-line" aria-label="What they hear, loudest first">
      {heard.map(({ key, name, db, paths }) => (
        <li key={key} className="border-b border-line/60 px-2 py-1">
          <div className="flex justify-between gap-2">
            <span className="truncate">
              {paths[0]?.nodes
                .map((v) => graph.nodes[v])
                .find((n) => n?.kind === 'channel')
                ?.name.replace('channel ', '') ?? name}
            </span>
            <span className="figures shrink-0 text-[13px]">{dbWords(db)} dB</span>
          </div>
          {paths.slice(0, 3).map((p) => (
            <p key={p.words} className="text-[13px] text-muted">
              {p.words}
              {p.delayMs >= 1 && `, ${Math.round(p.delayMs)} ms`}
              {p.why && `. ${p.why}`}
            </p>
          ))}
          {paths.length > 3 && <p className="text-[13px] text-muted">and {paths.length - 3} more ways</p>}
        </li>
      ))}
    </ol>
  );
}

function OwnChannels({ listener }: { listener: Listener }) {
  const host = useShowClient();
  const send = useSend();
  useShow(({ desk: { show } }) => ({ inputs: show.sound.inputs, sources: show.sources }));
  const channels = channelsOf(host.state.desk.show);
  const names = channels.filter((c) => listener.ownIds.includes(c.id)).map((c) => c.name);
  return (
    <Popover
      label={`Own channels of ${listener.name}`}
      trigger={
        <Button className="max-w-full truncate" title="Channels that carry their own voice, or stand where they listen">
          {names.length > 0 ? names.join(', ') : 'no channel is theirs'}
        </Button>
      }
    >
      <fieldset className="flex max-h-80 flex-col gap-1">
        <legend className="mb-1 text-muted">Which channels are their own?</legend>
        {channels.map(({ id, name }) => (
          <label key={id} className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={listener.ownIds.includes(id)}
              onChange={(e) =>
                send('listener.set', {
                  listener: listener.id,
                  ownIds: e.target.checked ? [...listener.ownIds, id] : listener.ownIds.filter((own) => own !== id),
                })
              }
            />
            {name}
          </label>
        ))}
      </fieldset>
    </Popover>
  );
}

function ListenerRow({ listener }: { listener: Listener }) {
  const send = useSend();
  const open = useSoundRoom((s) => s.listener === listener.id);
  const sound = useShow(({ desk: { show } }) => show.sound);
  const { id, name, kind, busId, rule, place, talkback } = listener;
  const keyed = useTalkTarget((s) => talkTarget(sound.listeners, s.chosen)?.id === id);
  const set = (change: Record<string, unknown>) => send('listener.set', { listener: id, ...change });
  const air = kind === 'stream' || kind === 'recording';
  const places = sound.patches
    .map((p) => p.to)
    .filter((to, i, all) => all.findIndex((o) => o.deviceId === to.deviceId && o.pair === to.pair) === i);
  return (
    <li className="border-b border-line">
      <div className="flex items-center gap-2 px-2 py-1.5">
        <div className="min-w-0 flex-1">
          <p className="truncate font-semibold">{name}</p>
          <p className="text-[13px] text-muted">
            {KIND_WORDS[kind]} · hears {RULE_WORDS[rule]}
            {talkback ? ' and talkback' : ''}
          </p>
        </div>
        {talkback && (
          <Button
            pressed={keyed}
            className="px-1.5!"
            aria-label={`Alt with the key left of 1 speaks to ${name}`}
            title={
              keyed ? `Alt and the key left of 1, held, speak to ${name} alone` : `Let Alt and the key left of 1 speak to ${name} alone`
            }
            onClick={() => setTalkTarget(id)}
          >
            Alt
          </Button>
        )}
        {talkback && <TalkButton title={TALKS} nobody="Nobody there gets talkback." ids={[id]} name={name} label="Talk" />}
        <Button pressed={open} aria-expanded={open} onClick={() => setSoundRoom({ listener: open ? null : id })}>
          Hears…
        </Button>
      </div>
      {open && (
        <>
          <div className="grid grid-cols-[auto_minmax(0,1fr)] items-center gap-x-3 gap-y-1 px-2 pb-2 text-[13px]">
            <span className="text-muted">should hear</span>
            <select aria-label={`What ${name} should hear`} value={rule} onChange={(e) => set({ rule: e.target.value })}>
              {RULES.map((r) => (
                <option key={r} value={r}>
                  {RULE_WORDS[r]}
                </option>
              ))}
            </select>
            <span className="text-muted">is</span>
            <OwnChannels listener={listener} />
            <span className="text-muted">gets bus</span>
            <select aria-label={`Bus of ${name}`} value={busId} onChange={(e) => set({ busId: e.target.value })}>
              {sound.buses.map((b) => (
                <option key={b.id} value={b.id}>
                  {b.name}
                </option>
              ))}
            </select>
            {!air && (
              <>
                <span className="text-muted">listens at</span>
                <select
                  aria-label={`Where ${name} listens`}
                  value={place ? `${place.deviceId} ${place.pair}` : ''}
                  onChange={(e) => set({ place: places.find((p) => `${p.deviceId} ${p.pair}` === e.target.value) ?? null })}
                >
                  <option value="">wherever that bus is plugged</option>
                  {places.map((p) => (
                    <option key={`${p.deviceId} ${p.pair}`} value={`${p.deviceId} ${p.pair}`}>
                      {p.deviceLabel} {pairWords(sound, 'outputs', p)}
                    </option>
                  ))}
                </select>
                <span />
                <div className="flex flex-wrap gap-x-4">
                  <label className="flex items-center gap-2">
                    <input type="checkbox" checked={talkback} onChange={(e) => set({ talkback: e.target.checked })} /> gets talkback
                  </label>
                  <label
                    className="flex items-center gap-2"
                    title="What they hear comes back by their own microphone: an echo. Headphones end it."
                  >
                    <input type="checkbox" checked={listener.open} onChange={(e) => set({ open: e.target.checked })} /> by loudspeaker
                  </label>
                  <HoldButton
                    look="quiet"
                    className="ml-auto"
                    title="Hold to remove; a guest’s bus goes too"
                    onHeld={() => send('listener.remove', { listener: id })}
                  >
                    <Trash2 size={14} /> Remove
                  </HoldButton>
                </div>
              </>
            )}
          </div>
          <Hears id={id} />
        </>
      )}
    </li>
  );
}

/** Who listens, what each should hear and does hear, and talkback. */
export function ListenersPanel() {
  const host = useShowClient();
  const send = useSend();
  const [name, setName] = useState('');
  const [kind, setKind] = useState<ListenerKind>('guest');
  const { listeners, talkbackId, dimDb } = useShow(({ desk: { show } }) => ({
    listeners: show.sound.listeners,
    talkbackId: show.sound.talkbackId,
    dimDb: show.sound.dimDb,
    inputs: show.sound.inputs,
  }));
  const of = (...kinds: ListenerKind[]) => listeners.filter((l) => l.talkback && kinds.includes(l.kind)).map((l) => l.id);
  return (
    <div>
      <div className="flex flex-wrap items-center gap-2 border-b-2 border-line p-2" role="group" aria-label="Talkback">
        <TalkButton title={TALKS} nobody="Nobody there gets talkback." ids={of('guest')} name="all guests" label="All guests" />
        <TalkButton title={TALKS} nobody="Nobody there gets talkback." ids={of('room')} name="the room" label="Room" />
        <TalkButton
          title={TALKS}
          nobody="Nobody there gets talkback."
          ids={of('guest', 'room', 'presenter')}
          name="everybody"
          label="Everybody"
        />
        <label className="flex w-full items-center gap-2 text-[13px] text-muted">
          Speak with
          <select
            aria-label="Talkback microphone"
            value={talkbackId ?? ''}
            onChange={(e) => send('talkback.set', { channel: e.target.value || null })}
          >
            <option value="">no microphone</option>
            {channelsOf(host.state.desk.show).map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </select>
          mixes turn down
          <NumberField
            label="How far mixes are turned down under talkback, dB"
            className="w-20"
            unit="dB"
            min={-40}
            max={0}
            whole={0}
            value={dimDb}
            onCommit={(db) => send('talkback.set', { dimDb: db })}
          />
        </label>
      </div>
      <ul aria-label="Listeners">
        {listeners.map((listener) => (
          <ListenerRow key={listener.id} listener={listener} />
        ))}
      </ul>
      <form
        className="flex items-center gap-1 p-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (name.trim() && send('listener.add', { name: name.trim(), kind })) setName('');
        }}
      >
        <input
          aria-label="Name of a new listener"
          placeholder="Who else listens?"
          className="min-w-0 flex-1"
          value={name}
          maxLength={60}
          onChange={(e) => setName(e.target.value)}
        />
        <select aria-label="Kind of the new listener" value={kind} onChange={(e) => setKind(e.target.value as ListenerKind)}>
          {LISTENER_KINDS.map((k) => (
            <option key={k} value={k}>
              {KIND_WORDS[k]}
            </option>
          ))}
        </select>
        <Button look="straw" unusable={name.trim() ? null : 'Give them a name.'} type="submit">
          Add
        </Button>
      </form>
      <p className="px-2 pb-2 text-[13px] text-muted">
        A guest, a presenter, a room or a producer gets a bus of their own; its sends follow the rule.
      </p>
    </div>
  );
}
