/** The running order of the demo's afternoon. */
import { createItem } from '#core/order/create';
import { type OrderItem } from '#core/order/document';
import { type Show } from '#core/desk/show';

const minutes = (m: number, s = 0) => m * 60 + s;

/** From the welcome to the prizes; the bracket is drawn when there is time for it. */
export function addOrder({ order }: Show): void {
  const items: [name: string, change: Partial<OrderItem>][] = [
    [
      'Welcome at the pier',
      { seconds: minutes(2), pictureId: 'shore', notes: 'Ilse greets the pier and those at home. Wind is building.' },
    ],
    [
      'Who flies today',
      {
        seconds: minutes(4),
        pictureId: 'talk',
        lanes: [{ laneId: 'lane-1', pictureId: 'card-3' }],
        notes: 'Ilse and Bram go through the pilots of the heat.\nAsk Bram about the gusts over the point.',
      },
    ],
    [
      'Heat 4',
      {
        seconds: minutes(6),
        macroId: 'launch-window',
        notes: 'One press starts the launch window: clock, wind, pilot. It goes on by itself when the kite leaves the line.',
      },
    ],
    ['What the judges saw', { seconds: minutes(3), pictureId: 'mast', takes: 'cut', lanes: [{ laneId: 'lane-1', pictureId: null }] }],
    ['Bracket', { seconds: minutes(2), pictureId: 'standings-table', floats: true, notes: 'When there is time.' }],
    ['Box kites on the beach', { seconds: minutes(5), pictureId: 'shore', lanes: [{ laneId: 'lane-4', pictureId: 'news-line' }] }],
    ['Final', { seconds: minutes(9), hard: (15 * 60 + 20) * 60, pictureId: 'line', notes: 'The horn is at 15:20, whatever happens.' }],
    ['Prizes', { seconds: minutes(4), pictureId: 'desk' }],
  ];
  order.items = items.map(([name, change], i) => createItem(`item-${i + 1}`, name, i, change));
  Object.assign(order, { startsAt: (14 * 60 + 50) * 60, endsAt: (15 * 60 + 35) * 60 });
}
