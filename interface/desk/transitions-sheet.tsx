/** The armed transition, those kept by name, and those of pictures and pairs. */
import { Star, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { findPicture, pictureName } from '#core/desk/pictures';
import { type StoredTransition } from '#core/picture/document';
import { transitionWords } from '#core/picture/summary';
import { useHands } from '../client/hands';
import { useSend, useShow } from '../client/show-client';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { Monitor } from '../parts/monitor';
import { Sheet } from '../parts/sheet';
import { TransitionFields } from './transition-fields';

/** Plays the armed transition between air and Next over and over, without touching either. */
function Trial() {
  const { transition, fromId, toId } = useShow(({ desk: { show, air } }) => ({
    transition: show.transition,
    fromId: air.onAirId,
    toId: air.nextId,
  }));
  return (
    <figure className="flex flex-col gap-1">
      <div className="aspect-video bg-black">
        <Monitor picture={{ kind: 'trial', transition, fromId, toId }} label="The armed transition, tried out" className="h-full w-full" />
      </div>
      <figcaption className="text-xs text-muted">Tried out here only: nothing goes to air.</figcaption>
    </figure>
  );
}

function StoredRow({ stored, index }: { stored: StoredTransition; index: number }) {
  const send = useSend();
  const atHand = useHands((h) => h.transitionsAtHand);
  const hand = index < atHand;
  const armed = useShow(({ desk: { show } }) => JSON.stringify(show.transition) === JSON.stringify(stored.settings));
  return (
    <li className="flex items-center gap-1">
      <Button
        className="min-w-0 flex-1 justify-start!"
        pressed={armed}
        title={transitionWords(stored.settings)}
        onClick={() => send('transition.arm', { transition: stored.id })}
      >
        <span className="truncate">{stored.name}</span>
        <span className="ml-auto pl-2 text-xs text-muted">{stored.settings.frames}</span>
      </Button>
      <Button
        look="quiet"
        className={`px-1! ${hand ? 'text-straw!' : ''}`}
        aria-label={hand ? `${stored.name} is at hand` : `Put ${stored.name} at hand`}
        title={hand ? 'At hand on the rail' : 'Put at hand on the rail'}
        onClick={() => send('transition.move', { transition: stored.id, index: hand ? atHand : 0 })}
      >
        <Star size={15} />
      </Button>
      <IconButton label={`Remove ${stored.name}`} onClick={() => send('transition.remove', { transition: stored.id })}>
        <Trash2 size={14} />
      </IconButton>
    </li>
  );
}

/** Transitions that Next, or Next after what is on air, has of its own. */
function Overrides() {
  const send = useSend();
  const { nextId, onAirId, next, onAir, own, pair, settings } = useShow(({ desk: { show, air } }) => ({
    nextId: air.nextId,
    onAirId: air.onAirId,
    next: pictureName(show, air.nextId),
    onAir: pictureName(show, air.onAirId),
    own: show.overrides.find((o) => o.toId === air.nextId && o.fromId === null),
    pair: show.overrides.find((o) => o.toId === air.nextId && o.fromId === air.onAirId && o.fromId !== null),
    settings: show.transition,
  }));
  const known = useShow(({ desk: { show } }) => findPicture(show, nextId) !== null);
  if (!known || nextId === null) return null;
  const line = (label: string, from: string | null, current: { settings: StoredTransition['settings'] } | undefined) => (
    <div className="flex items-center gap-1.5">
      <span className="min-w-0 flex-1 text-xs">
        {label}: <span className="text-muted">{current ? transitionWords(current.settings) : 'what is armed'}</span>
      </span>
      <Button onClick={() => send('transition.override', { to: nextId, from, settings: { ...settings, kind: 'cut' } })}>Cut</Button>
      <Button onClick={() => send('transition.override', { to: nextId, from, settings })}>This</Button>
      {current && (
        <IconButton
          label={`${label}: use what is armed again`}
          onClick={() => send('transition.override', { to: nextId, from, settings: null })}
        >
          <Trash2 size={14} />
        </IconButton>
      )}
    </div>
  );
  return (
    <div className="flex flex-col gap-1 border-t border-line pt-2">
      {line(`Always to ${next}`, null, own)}
      {onAirId !== null && line(`From ${onAir} to ${next}`, onAirId, pair)}
    </div>
  );
}

/** The armed transition with everything about it, the ones kept by name, and a place to try it. */
export function TransitionsSheet({ onClose }: { onClose: () => void }) {
  const send = useSend();
  const { transition, stored } = useShow(({ desk: { show } }) => ({ transition: show.transition, stored: show.transitions }));
  const [name, setName] = useState('');
  const atHand = useHands((h) => h.transitionsAtHand);
  const keep = () => {
    if (send('transition.keep', { name: name.trim() || transitionWords(transition).split(',')[0] || 'Transition' })) setName('');
  };
  return (
    <Sheet title="Transitions" onClose={onClose}>
      <TransitionFields value={transition} onChange={(change) => send('picture.arm', change)} />
      <Trial />
      <Overrides />
      <div className="flex flex-col gap-1.5 border-t border-line pt-2">
        <h3 className="text-xs font-semibold text-muted">Kept by name; the first {atHand} are at hand: how many, Settings says</h3>
        <ul className="flex flex-col gap-1">
          {stored.map((t, i) => (
            <StoredRow key={t.id} stored={t} index={i} />
          ))}
        </ul>
        <form
          className="flex gap-1"
          onSubmit={(e) => {
            e.preventDefault();
            keep();
          }}
        >
          <input
            aria-label="Name for the armed transition"
            placeholder="Keep as…"
            className="min-w-0 flex-1"
            maxLength={40}
            value={name}
            onChange={(e) => setName(e.target.value)}
          />
          <Button type="submit">Keep</Button>
        </form>
      </div>
    </Sheet>
  );
}
