/** Every command there is. */
import { macroCommands } from '../automation/macro-commands';
import { recordCommands } from '../automation/record-commands';
import { runCommands } from '../automation/run-commands';
import { triggerCommands } from '../automation/trigger-commands';
import { boxCommands } from '../layout/box-commands';
import { framingCommands } from '../layout/framing-commands';
import { layoutCommands } from '../layout/layout-commands';
import { audienceCommands } from '../audience/audience-commands';
import { commentCommands } from '../audience/comment-commands';
import { pollCommands } from '../audience/poll-commands';
import { castCommands } from '../guests/cast-commands';
import { gatheringCommands } from '../guests/gathering-commands';
import { guestCommands } from '../guests/commands';
import { seatCommands } from '../layout/seat-commands';
import { styleCommands } from '../layout/style-commands';
import { windowCommands } from '../layout/window-commands';
import { angleCommands } from '../replay/angle-commands';
import { clipCommands } from '../replay/clip-commands';
import { deckCommands } from '../replay/deck-commands';
import { reelCommands } from '../replay/reel-commands';
import { rollCommands } from '../replay/roll-commands';
import { mediaCommands } from '../media/commands';
import { buttonCommands } from '../buttons/commands';
import { partCommands } from '../parts/commands';
import { screenCommands } from '../screens/commands';
import { layerCommands } from '../screens/layer-commands';
import { surfaceCommands } from '../screens/surface-commands';
import { surfaceScreenCommands } from '../screens/surface-screen-commands';
import { deviceCommands } from '../devices/commands';
import { orderCommands } from '../order/commands';
import { outputCommands } from '../output/commands';
import { laneCommands } from '../picture/lane-commands';
import { pictureCommands } from '../picture/commands';
import { transitionCommands } from '../picture/transition-commands';
import { tableauCommands } from '../picture/tableau-commands';
import { arrangeCommands } from '../graphics/arrange-commands';
import { clockCommands } from '../graphics/clock-commands';
import { sheetEntryCommands } from '../graphics/sheet-commands';
import { tickerCommands } from '../graphics/ticker-commands';
import { sheetCommands } from '../sheets/commands';
import { sizeCommands } from '../graphics/size-commands';
import { elementCommands } from '../graphics/element-commands';
import { entryCommands } from '../graphics/entry-commands';
import { fieldCommands } from '../graphics/field-commands';
import { finishCommands } from '../graphics/finish-commands';
import { fontCommands } from '../graphics/font-commands';
import { graphicCommands } from '../graphics/graphic-commands';
import { showCommands } from '../show/commands';
import { sourceCommands } from '../show/source-commands';
import { busCommands } from '../sound/bus-commands';
import { soundCommands } from '../sound/commands';
import { soundFileCommands } from '../sound/file-commands';
import { listenerCommands } from '../sound/listener-commands';
import { processingCommands } from '../sound/processing-commands';
import { historyCommands } from './history-commands';
import { type Command, type CommandSpec } from '../commands/command';
import { type Desk } from './air';

/** All commands in the order of the reference. */
export const COMMANDS: readonly CommandSpec[] = [
  ...pictureCommands,
  ...transitionCommands,
  ...laneCommands,
  ...seatCommands,
  ...guestCommands,
  ...castCommands,
  ...gatheringCommands,
  ...audienceCommands,
  ...commentCommands,
  ...pollCommands,
  ...layoutCommands,
  ...windowCommands,
  ...boxCommands,
  ...framingCommands,
  ...styleCommands,
  ...tableauCommands,
  ...graphicCommands,
  ...entryCommands,
  ...fieldCommands,
  ...elementCommands,
  ...arrangeCommands,
  ...finishCommands,
  ...clockCommands,
  ...sheetEntryCommands,
  ...tickerCommands,
  ...sheetCommands,
  ...sizeCommands,
  ...fontCommands,
  ...deckCommands,
  ...clipCommands,
  ...reelCommands,
  ...rollCommands,
  ...angleCommands,
  ...mediaCommands,
  ...sourceCommands,
  ...soundCommands,
  ...processingCommands,
  ...busCommands,
  ...listenerCommands,
  ...soundFileCommands,
  ...outputCommands,
  ...macroCommands,
  ...runCommands,
  ...recordCommands,
  ...triggerCommands,
  ...orderCommands,
  ...deviceCommands,
  ...buttonCommands,
  ...partCommands,
  ...screenCommands,
  ...surfaceCommands,
  ...surfaceScreenCommands,
  ...layerCommands,
  ...showCommands,
  ...historyCommands,
];

const byType = new Map(COMMANDS.map((spec) => [spec.type, spec]));

export const findCommand = (type: string): CommandSpec | undefined => byType.get(type);

/** True when a person must hold the key or button that sends a command. */
export const asksForHold = (desk: Desk, { type, args = {} }: Command): boolean => findCommand(type)?.hold?.(desk, args) ?? false;
