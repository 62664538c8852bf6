/** Actions of the room Layouts: they work on the chosen boxes of the layout that is open. */
import { command, numberArg, refuse, type Action, type ActionArgs, type Hands, type Meaning } from '../action';
import { actionsOf, number } from '../make';

const choose = actionsOf('layouts', 'Choose');
const boxes = actionsOf('layouts', 'Chosen boxes');
const room = actionsOf('layouts', 'Go to');

/** A command for the chosen boxes. */
const onBoxes =
  (type: string, more: (args: ActionArgs) => Record<string, unknown> = () => ({})) =>
  ({ chosen }: Hands, args: ActionArgs): Meaning =>
    chosen.layout === null || chosen.boxes.length === 0
      ? refuse('No box is chosen. Choose one in the room Layouts first.')
      : command(type, { layout: chosen.layout, boxes: [...chosen.boxes], ...more(args) });

/** A command for the layout that is open. */
const onLayout =
  (type: string, name: string) =>
  ({ chosen }: Hands): Meaning =>
    chosen.layout === null ? refuse('No layout is open. Open one in the room Layouts first.') : command(type, { [name]: chosen.layout });

export const LAYOUT_ACTIONS: readonly Action[] = [
  choose.act('layouts.before', 'The layout before', 'Layout −'),
  choose.act('layouts.after', 'The next layout', 'Layout +'),
  choose.act('layouts.nextBox', 'Choose the next box', 'Next box'),
  choose.act('layouts.boxBefore', 'Choose the box before', 'Box before'),
  choose.act('layouts.all', 'Choose all boxes that are not locked', 'All'),
  choose.act('layouts.none', 'Choose none', 'None'),
  boxes.press(
    'layouts.nudge',
    'Nudge by {x}, {y} pixels',
    '{x}, {y}',
    onBoxes('box.nudge', (args) => ({ x: numberArg(args, 'x', 0), y: numberArg(args, 'y', 0) })),
    { params: [number('x', 'Pixels to the right', -100, 100), number('y', 'Pixels down', -100, 100)], repeats: true },
  ),
  boxes.act('layouts.crop', 'Crop and pan with the handles, on and off', 'Crop'),
  boxes.act('layouts.copy', 'Copy geometry', 'Copy'),
  boxes.act('layouts.paste', 'Paste geometry onto the chosen boxes', 'Paste'),
  boxes.press('layouts.duplicate', 'Duplicate', 'Duplicate', onBoxes('box.duplicate')),
  boxes.act('layouts.remove', 'Remove the boxes', 'Remove'),
  boxes.press(
    'layouts.style',
    'Apply style {number} of the list',
    'Style {number}',
    (hands, args) => {
      const style = hands.desk.show.styles[numberArg(args, 'number') - 1];
      return style
        ? onBoxes('style.apply', () => ({ style: style.id }))(hands, args)
        : refuse(`There is no style ${numberArg(args, 'number')}.`);
    },
    { params: [number('number', 'Place in the list', 1, 200)] },
  ),
  room.press('layouts.toNext', 'Put this layout into Next', 'To Next', onLayout('picture.setNext', 'picture')),
  room.act('layouts.new', 'New layout', 'New'),
  room.act('layouts.content', 'What the box shows', 'Shows'),
  room.act('layouts.place', 'Place of the box', 'Place'),
  room.act('layouts.tab', 'Settings: tab {number}', 'Tab {number}', { params: [number('number', 'Tab', 1, 4)] }),
  room.act('layouts.framings', 'Framings, or layouts', 'Framings'),
];
