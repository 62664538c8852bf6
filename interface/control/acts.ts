/** Every act: what the shell does, and what each room does. */
import { type ActionArgs, numberArg } from '#core/control/action';
import { isRoom } from '#core/control/rooms';
import { CLEAN_OUTPUT } from '#core/screens/outputs';
import { type ActWorld, type Acts } from '../client/acts';
import { goToPart, stepPart } from '../client/focus';
import { TO_ALL } from '#core/panels/sound-line';
import { crewTarget } from '../client/crew-target';
import { openPanel } from '../client/here';
import { say } from '../client/say';
import { talkTarget, useTalkTarget } from '../client/talk-target';
import { AUTOMATION_ACTS } from '../automation/acts';
import { DESK_ACTS } from '../desk/acts';
import { GRAPHICS_ACTS } from '../graphics/acts';
import { GUEST_ACTS } from '../guests/acts';
import { LAYOUT_ACTS } from '../layouts/acts';
import { OUTPUT_ACTS } from '../output/acts';
import { openOutputWindow } from '../programme/open-window';
import { REPLAY_ACTS } from '../replay/acts';
import { SCREEN_ACTS } from '../screens/acts';
import { SETTINGS_ACTS } from '../settings/acts';
import { SOUND_ACTS } from '../sound/acts';

const SHELL_ACTS: Acts = {
  nothing: () => undefined,
  go: ({ go }, { room }) => {
    openPanel(null);
    if (isRoom(String(room))) go(String(room) as Parameters<typeof go>[0]);
  },
  'region.next': () => stepPart(1),
  'region.before': () => stepPart(-1),
  region: (_, args) => goToPart(numberArg(args, 'number') - 1),
  finder: () => openPanel('finder'),
  keys: () => openPanel('keys'),
  notices: () => openPanel('notices'),
  'window.programme': ({ client }) => void openOutputWindow(client.showId),
  'window.clean': ({ client }) => void openOutputWindow(client.showId, CLEAN_OUTPUT),
  'talk.guests': ({ send }) => void send('talkback.start', { to: 'guests' }),
  'talk.room': ({ send }) => void send('talkback.start', { to: 'room' }),
  'talk.one': ({ client, send }) => {
    const one = talkTarget(client.state.desk.show.sound.listeners, useTalkTarget.getState().chosen);
    send('talkback.start', one ? { listeners: [one.id] } : { to: 'guests' });
  },
  'crew.all': ({ client }) => client.crew.talk(TO_ALL),
  'crew.one': ({ client }) => {
    const one = crewTarget(client.crew.store.getState());
    if (one === null) say.info('Nobody else works this show now.', { id: 'crew' });
    else client.crew.talk(one);
  },
  'crew.end': ({ client }) => client.crew.end(),
  'crew.listen': ({ client }) => {
    const { listening } = client.sound;
    if (!listening) say.info('Here, where the show runs, it is always heard: see Sound.', { id: 'crew' });
    else if (listening.store.getState().on) listening.off();
    else listening.on();
  },
  'talk.end': ({ client, send }) => void (client.state.desk.air.sound.talkback && send('talkback.stop')),
};

export const ACTS: Acts = {
  ...SHELL_ACTS,
  ...DESK_ACTS,
  ...REPLAY_ACTS,
  ...SOUND_ACTS,
  ...GRAPHICS_ACTS,
  ...GUEST_ACTS,
  ...LAYOUT_ACTS,
  ...OUTPUT_ACTS,
  ...AUTOMATION_ACTS,
  ...SCREEN_ACTS,
  ...SETTINGS_ACTS,
};

/** Does an act of the shell or a room. */
export const doAct = (world: ActWorld, id: string, args: ActionArgs): void => ACTS[id]?.(world, args);
