/** Where the running order is. Frames are show frames: times are worked out from them, nothing is ticked. */

/** An item that was on. */
export interface PastItem {
  itemId: string;
  name: string;
  from: number;
  to: number;
}

export interface OrderAir {
  /** Item that is on; null before the first, and after the last. */
  onId: string | null;
  /** Frame since which it is on. */
  since: number;
  /** Item that *Go* takes next, where somebody has chosen one; null for the one after. */
  nextId: string | null;
  /** Items that are passed over this time. */
  skipped: string[];
  /** Items that were on, the oldest first. */
  past: PastItem[];
}

export const createOrderAir = (): OrderAir => ({ onId: null, since: 0, nextId: null, skipped: [], past: [] });
