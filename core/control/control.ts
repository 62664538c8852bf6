/** What controllers say, and what it means under their bindings. Pure; devices are drivers of the engine. */
import { type Hands, type Meaning, numberArg } from './action';
import { findAction } from './actions';
import { type Binding } from './binding';
import { levelOf, PickUp, PLAIN_TRAVEL } from './lever';

export type ControlEvent =
  | { kind: 'button'; id: string; pressed: boolean }
  /** Clicks of an endless wheel since the last event, forwards positive. */
  | { kind: 'wheel'; id: string; clicks: number }
  /** A wheel is touched or let go. */
  | { kind: 'touch'; id: string; held: boolean }
  /** A lever or stick, −1 to 1. */
  | { kind: 'lever'; id: string; value: number }
  /** A MIDI controller, 0 to 127: button, wheel or lever, as its binding says. */
  | { kind: 'value'; id: string; value: number };

/** Clicks of a relative MIDI controller: two's complement of seven bits, as endless encoders send. */
export const relativeClicks = (value: number): number => (value < 64 ? value : value - 128);

/** A MIDI controller that is a button is pressed from here on. */
const PRESSED = 64;

/** Place of a lever in a span; null for what is no lever. */
function placeOf(event: ControlEvent, span: 'one' | 'both'): number | null {
  if (event.kind === 'lever') return span === 'both' ? event.value : (event.value + 1) / 2;
  // The middle of 0 to 127 is 64, and both ends are reached.
  if (event.kind === 'value')
    return span === 'one' ? event.value / 127 : event.value >= 64 ? (event.value - 64) / 63 : (event.value - 64) / 64;
  return null;
}

/** Reads one device's events under their bindings; remembers what is pressed and what levers hold. */
export class ControlReader {
  private readonly pressed = new Set<string>();
  private readonly pickUps = new Map<string, { action: string; pickUp: PickUp }>();

  /** What an event means now; null when it means nothing. `let go` of a press is told only where the action has a meaning for it. */
  read(binding: Binding, event: ControlEvent, hands: Hands): { meaning: Meaning; pressed: boolean } | null {
    const action = findAction(binding.action);
    if (!action) return null;
    const { args } = binding;
    if (action.takes === 'press') {
      const now = this.press(event);
      if (now === null) return null;
      if (now) return { meaning: action.run(hands, args), pressed: true };
      return { meaning: action.release?.(hands, args) ?? { kind: 'act', id: 'nothing', args: {} }, pressed: false };
    }
    if (action.takes === 'clicks') {
      if (event.kind === 'touch') return event.held ? { meaning: action.turn(hands, args, 0), pressed: true } : null;
      const clicks = event.kind === 'wheel' ? event.clicks : event.kind === 'value' ? relativeClicks(event.value) : 0;
      return clicks === 0 ? null : { meaning: action.turn(hands, args, clicks), pressed: true };
    }
    const place = placeOf(event, action.span);
    if (place === null) return null;
    const level = levelOf(place, action.span, binding.travel ?? PLAIN_TRAVEL);
    if (binding.pickUp && !this.pickUpOf(binding).takes(level, action.present(hands, args))) return null;
    return { meaning: action.move(hands, args, level), pressed: true };
  }

  /** True when pressed, false when let go, null when neither. */
  private press(event: ControlEvent): boolean | null {
    if (event.kind !== 'button' && event.kind !== 'value') return null;
    const now = event.kind === 'button' ? event.pressed : event.value >= PRESSED;
    if (this.pressed.has(event.id) === now) return null;
    if (now) this.pressed.add(event.id);
    else this.pressed.delete(event.id);
    return now;
  }

  private pickUpOf({ control, action, args }: Binding): PickUp {
    const what = `${action} ${numberArg(args, 'strip', 0)} ${numberArg(args, 'deck', 0)}`;
    const kept = this.pickUps.get(control);
    if (kept?.action === what) return kept.pickUp;
    const pickUp = new PickUp();
    this.pickUps.set(control, { action: what, pickUp });
    return pickUp;
  }
}

/** Gathers clicks that come faster than pictures, so that none is lost and none is sent twice. */
export function gather(events: readonly ControlEvent[]): ControlEvent[] {
  const out: ControlEvent[] = [];
  for (const event of events) {
    const last = out.at(-1);
    if (event.kind === 'wheel' && last?.kind === 'wheel' && last.id === event.id)
      out[out.length - 1] = { ...last, clicks: last.clicks + event.clicks };
    else if (event.kind === 'lever' && last?.kind === 'lever' && last.id === event.id) out[out.length - 1] = event;
    else out.push(event);
  }
  return out;
}
