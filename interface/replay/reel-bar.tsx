/** The reels, and what is done with the chosen one. */
import { Pencil, Plus, Star, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { say } from '../client/say';
import { pictureName } from '#core/desk/pictures';
import { useShowClient, useShow, useSend } from '../client/show-client';
import { Button, withKey } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { Popover } from '../parts/popover';
import { setRoom, useRoom } from './room-state';
import { useDo } from '../control/do';
import { useKeyName } from '../client/hands';
import { useRoving } from '../parts/roving';
import { targetReel } from './acts';

/** A name, asked for where it is needed. */
function NameForm({ label, first, verb, onDone }: { label: string; first: string; verb: string; onDone: (name: string) => void }) {
  const [name, setName] = useState(first);
  return (
    <form
      className="flex gap-1"
      onSubmit={(e) => {
        e.preventDefault();
        if (name.trim() !== '') onDone(name.trim());
      }}
    >
      <input aria-label={label} maxLength={60} value={name} onChange={(e) => setName(e.target.value)} />
      <Button type="submit">{verb}</Button>
    </form>
  );
}

/** Which reel is open, how it is named, and where copies go. */
export function ReelBar() {
  const host = useShowClient();
  const send = useSend();
  const [open, setOpen] = useState<string | null>(null);
  const { reels, reelId, counts } = useShow(({ desk: { show } }) => ({
    reels: show.replay.reels,
    reelId: show.replay.reelId,
    counts: show.replay.clips.length,
  }));
  const before = useKeyName('replay.reelBefore');
  const after = useKeyName('replay.reelAfter');
  const targetKey = useKeyName('replay.target');
  const bar = useRoving<HTMLDivElement>();
  const chosenTarget = useRoom((s) => s.target);
  const target = targetReel(host.state.desk.show);
  const reel = reels.find((r) => r.id === reelId);
  const place = reels.findIndex((r) => r.id === reelId);
  const best = () => {
    const outcome = host.dispatch({ type: 'reel.highlights', args: { name: 'Highlights', rating: 1 } });
    if (!outcome.ok) say.caution(outcome.error.message);
    else send('reel.choose', { reel: outcome.result.id });
  };
  return (
    <div ref={bar} className="flex items-center gap-1 border-b border-line p-1.5">
      <select
        aria-label="Reel"
        className="min-w-0 flex-1 font-semibold"
        title={`Reel (${before}, ${after})`}
        value={reelId}
        onChange={(e) => send('reel.choose', { reel: e.target.value })}
      >
        {reels.map((r) => (
          <option key={r.id} value={r.id}>
            {r.name}
          </option>
        ))}
      </select>
      <Popover
        label="Rename the reel"
        open={open === 'rename'}
        onOpenChange={(o) => setOpen(o ? 'rename' : null)}
        trigger={
          <IconButton label="Rename this reel">
            <Pencil size={15} />
          </IconButton>
        }
      >
        <NameForm
          label="Name of the reel"
          first={reel?.name ?? ''}
          verb="Rename"
          onDone={(name) => send('reel.rename', { reel: reelId, name }) && setOpen(null)}
        />
        <div className="mt-1 flex gap-1">
          <Button unusable={place <= 0 ? 'It is the first.' : null} onClick={() => send('reel.move', { reel: reelId, index: place - 1 })}>
            Further up
          </Button>
          <Button
            unusable={place >= reels.length - 1 ? 'It is the last.' : null}
            onClick={() => send('reel.move', { reel: reelId, index: place + 1 })}
          >
            Further down
          </Button>
        </div>
      </Popover>
      <Popover
        label="New reel"
        open={open === 'add'}
        onOpenChange={(o) => setOpen(o ? 'add' : null)}
        trigger={
          <IconButton label="New reel">
            <Plus size={15} />
          </IconButton>
        }
      >
        <NameForm label="Name of the new reel" first="" verb="Add" onDone={(name) => send('reel.add', { name }) && setOpen(null)} />
      </Popover>
      <IconButton
        label="Reel of the rated clips"
        title="New reel with copies of all rated clips"
        unusable={counts === 0 ? 'There are no clips yet.' : null}
        onClick={best}
      >
        <Star size={15} />
      </IconButton>
      <IconButton label="Remove this reel" title="Remove this reel with its clips" onClick={() => send('reel.remove', { reel: reelId })}>
        <Trash2 size={15} />
      </IconButton>
      <label className="flex items-center gap-1 pl-1 text-[13px] text-muted" title={withKey('Copies and moves go here', targetKey)}>
        to
        <select
          aria-label="Target reel for copies"
          className="w-24"
          value={chosenTarget ?? target}
          onChange={(e) => setRoom({ target: e.target.value })}
        >
          {reels.map((r) => (
            <option key={r.id} value={r.id}>
              {r.name}
            </option>
          ))}
        </select>
      </label>
    </div>
  );
}

/** Search over the reel, or over all. */
export function ClipSearch() {
  const searchKey = useKeyName('replay.search');
  const bar = useRoving<HTMLDivElement>();
  const filter = useRoom((s) => s.filter);
  const show = useShow(({ desk }) => desk.show);
  const set = (change: Partial<typeof filter>) => setRoom({ filter: { ...filter, ...change } });
  return (
    <div ref={bar} className="flex items-center gap-1 border-b border-line px-1.5 py-1">
      <input
        data-role="clip-search"
        aria-label="Search the clips"
        placeholder="Search: words, #12"
        title={withKey('Search', searchKey)}
        className="min-w-0 flex-1"
        value={filter.text}
        onChange={(e) => set({ text: e.target.value })}
        onKeyDown={(e) => {
          if (e.key === 'Escape') set({ text: '' });
        }}
      />
      <select aria-label="Lowest rating" value={filter.rating} onChange={(e) => set({ rating: Number(e.target.value) })}>
        <option value={0}>any ★</option>
        {[1, 2, 3, 4, 5].map((n) => (
          <option key={n} value={n}>
            {n} ★ +
          </option>
        ))}
      </select>
      <select aria-label="Angle" className="w-24" value={filter.angleId ?? ''} onChange={(e) => set({ angleId: e.target.value || null })}>
        <option value="">any angle</option>
        {show.replay.angles.map(({ pictureId: sourceId }, i) => (
          <option key={sourceId} value={sourceId}>
            {i + 1} {pictureName(show, sourceId)}
          </option>
        ))}
      </select>
      <Button pressed={filter.everywhere} title="Look through all reels" onClick={() => set({ everywhere: !filter.everywhere })}>
        All
      </Button>
    </div>
  );
}

/** What is done with the chosen clips: stand them on the deck, play, roll to air, copy, remove. */
export function ClipTools() {
  const act = useDo();
  const bar = useRoving<HTMLDivElement>();
  const none = useRoom((s) => s.chosen.length === 0);
  const why = none ? 'Choose a clip first.' : null;
  const { look, rolls } = useShow(({ desk: { air } }) => ({
    look: air.replay.lookBack !== null,
    rolls: air.replay.takeBack !== null,
  }));
  const button = (id: string, label: string, title: string, unusable: string | null = null, kind: 'plain' | 'air' | 'straw' = 'plain') => (
    <Button look={kind} className="px-2!" title={title} keyFor={id} unusable={unusable} onClick={() => act(id)}>
      {label}
    </Button>
  );
  return (
    <div ref={bar} className="flex flex-wrap gap-1 border-t border-line p-1.5">
      {button('replay.roll', 'Play', 'Play the chosen clips on the deck', why, 'straw')}
      {button('replay.cue', 'Cue', 'Stand the chosen clips on the deck', why)}
      {button('replay.rollReel', 'Play reel', 'Play the whole reel on the deck')}
      {button('replay.toAir', 'Roll to air', 'Take the deck to air, play the chosen clips, and take back what was on air', why, 'air')}
      {button('replay.reelToAir', 'Reel to air', 'Take the deck to air, play the whole reel, and take back what was on air', null, 'air')}
      {button(
        'replay.lookBack',
        look ? 'Again' : 'Look back',
        'Show on air what was on air some seconds ago; again starts it again',
        null,
        'air',
      )}
      {(look || rolls) && button('replay.return', 'Return', 'Take back what was on air before', null, 'straw')}
      {button('replay.copy', 'Copy', 'Copy the chosen clips to the target reel', why)}
      {button('replay.move', 'Move', 'Move the chosen clips to the target reel', why)}
      {button('replay.remove', 'Remove', 'Remove the chosen clips', why)}
    </div>
  );
}
