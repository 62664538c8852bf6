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

/** True when an event presses a button, false when it lets one go, null when it does neither. */
function pressOf(event: ControlEvent): boolean | null {
  if (event.kind === 'button') return event.pressed;
  return event.kind === 'value' ? event.value >= PRESSED : null;
}

/** Place of a lever in a span; null for what is no lever. */
function placeOf(event: ControlEvent, span: 'one' | 'both'): number | null {
  if (event.kind === 'lever') return span === 'both' ? event.value : (event.value + 1) / 2;
  // The middle of 0 to 127 is 64, and both ends are reached.
  if (event.kind === 'value')
    return span === 'one' ? event.value / 127 : event.value >= 64 ? (event.value - 64) / 63 : (event.value - 64) / 64;
  return null;
}

/** What a control has come to: the meaning, and whether it was pressed, or let go. */
export interface Reading {
  meaning: Meaning;
  pressed: boolean;
}

/** Reads one device's events under their bindings; remembers what is pressed, under which binding, and what levers hold. */
export class ControlReader {
  private readonly pressed = new Map<string, Binding>();
  private readonly pickUps = new Map<string, { action: string; pickUp: PickUp }>();

  /** What an event means now, under the binding that its control has; null when it means nothing. */
  read(bound: Binding | undefined, event: ControlEvent, hands: Hands): Reading | null {
    const down = this.pressed.get(event.id);
    // What was pressed is let go under the binding that it was pressed under, whatever room is open by then.
    if (down) return pressOf(event) === false ? this.letGo(event.id, down, hands) : null;
    const action = bound && findAction(bound.action);
    if (!action) return null;
    const { args } = bound;
    if (action.takes === 'press') {
      if (pressOf(event) !== true) return null;
      this.pressed.set(event.id, bound);
      return { meaning: action.run(hands, args), pressed: true };
    }
    if (action.takes === 'clicks') {
      if (event.kind === 'touch') return event.held ? { meaning: action.turn(hands, args, 0), pressed: true } : null;
      const clicks = event.kind === 'wheel' ? event.clicks : event.kind === 'value' ? relativeClicks(event.value) : 0;
      return clicks === 0 ? null : { meaning: action.turn(hands, args, clicks), pressed: true };
    }
    const place = placeOf(event, action.span);
    if (place === null) return null;
    const level = levelOf(place, action.span, bound.travel ?? PLAIN_TRAVEL);
    if (bound.pickUp && !this.pickUpOf(bound).takes(level, action.present(hands, args))) return null;
    return { meaning: action.move(hands, args, level), pressed: true };
  }

  private letGo(id: string, { action, args }: Binding, hands: Hands): Reading {
    this.pressed.delete(id);
    const found = findAction(action);
    const release = found?.takes === 'press' ? found.release?.(hands, args) : undefined;
    return { meaning: release ?? { kind: 'act', id: 'nothing', args: {} }, pressed: false };
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
