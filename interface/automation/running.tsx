/** What runs and what is recorded, at the foot of every room. Its parts are fetched when something runs, or soon after the page stands. */
import { useEffect, useState } from 'react';
import { createPortal } from 'react-dom';
import { useShow } from '../client/show-client';
import { later } from '../parts/later';

const RunningParts = later(() => import('./running-parts').then((m) => m.RunningParts));

export function Running() {
  const [slot, setSlot] = useState<HTMLElement | null>(null);
  // The line at the foot of the page is there when all of it has been drawn.
  useEffect(() => setSlot(document.getElementById('status-slot')), []);
  const runs = useShow(({ desk }) => desk.air.automation.runs);
  const recorded = useShow(({ desk }) => desk.air.automation.recording?.acts.length ?? null);
  const held = useShow(({ desk }) => desk.air.automation.held);
  const list = Object.values(runs);
  if (!slot || (list.length === 0 && recorded === null && !held)) return null;
  return createPortal(<RunningParts runs={list} recorded={recorded} held={held} />, slot);
}
