/** What an item does to air, as the steps of a macro: the same commands that hands would send. */
import { commandAct, createStep, untilAct } from '../automation/create';
import { type Step } from '../automation/document';
import { type Desk } from '../desk/air';
import { type OrderItem } from './document';

/** Deck that clips of items are played out in. */
const CLIP_DECK = 1;

/** Steps that take an item to air; `after` is the item that follows, whose picture may be put into Next when the transition is over. */
export function stepsOfItem({ show, air }: Desk, item: OrderItem, after: OrderItem | undefined): Step[] {
  const steps: Step[] = [];
  const add = (type: string, args: Record<string, unknown>, joined = false) =>
    steps.push(createStep(`step-${steps.length + 1}`, commandAct(type, args), { joined }));
  for (const { seatId, occupantId } of item.seats) add('seat.fill', { seat: seatId, occupant: occupantId });
  for (const { laneId, pictureId } of item.lanes) {
    if (pictureId !== null) add('lane.showPicture', { lane: laneId, picture: pictureId });
    // Hiding what is down would be refused, and is no fault here.
    else if (air.lanes[laneId]?.fade.to === 1) add('lane.hide', { lane: laneId });
  }
  const { pictureId, takes } = item;
  if (pictureId !== null && pictureId !== air.onAirId) {
    if (takes === 'cut') add('picture.cut', { picture: pictureId });
    else {
      add('picture.setNext', { picture: pictureId });
      if (takes === 'take') add('picture.take', {}, true);
    }
  }
  if (item.clipId !== null) add('roll.toAir', { deck: CLIP_DECK, clips: [item.clipId] });
  if (item.macroId !== null) add('macro.run', { macro: item.macroId });
  const ready = show.order.prepares ? (after?.pictureId ?? null) : null;
  if (ready !== null && ready !== pictureId && takes !== 'next') {
    if (pictureId !== null) steps.push(createStep(`step-${steps.length + 1}`, untilAct('transition')));
    add('picture.setNext', { picture: ready });
  }
  return steps;
}
