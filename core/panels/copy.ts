/** A copy of a show that is kept by what its host tells: the same at the server and at every panel. */
import { applyPatches, enablePatches } from 'immer';
import { type Air } from '../desk/air';
import { type Show } from '../desk/show';
import { type Change, type Snapshot } from './messages';

enablePatches();

/** Show and air at a revision. */
export interface Copy {
  revision: number;
  show: Show;
  air: Air;
  /** The frame last mixed when it was told. */
  frame: number;
}

/** What a message makes of a copy. */
export interface Followed {
  copy: Copy | null;
  /** The message has brought something new. */
  changed: boolean;
  /** A revision was missed, or none is known: ask for a snapshot. What comes until then changes nothing. */
  missed: boolean;
}

/**
 * Takes a message in. Messages may be lost, come twice or in another order: a copy is always that of some revision, and whenever something
 * is missing it is said. Pure.
 */
export function followed(copy: Copy | null, message: Snapshot | Change): Followed {
  if (message.kind === 'state') {
    const { revision, show, air, frame } = message;
    // A snapshot that a later change has overtaken.
    if (copy && revision < copy.revision) return { copy, changed: false, missed: false };
    return { copy: { revision, show, air, frame }, changed: true, missed: false };
  }
  if (copy && message.revision <= copy.revision) return { copy, changed: false, missed: false };
  if (!copy || message.revision !== copy.revision + 1) return { copy, changed: false, missed: true };
  try {
    const { show, air } = applyPatches({ show: copy.show, air: copy.air }, message.patches);
    return { copy: { revision: message.revision, show, air, frame: message.frame }, changed: true, missed: false };
  } catch {
    return { copy, changed: false, missed: true };
  }
}
