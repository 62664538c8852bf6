/**
 * Air: what is happening now. Plain data with the frames at which things began; nothing in it is ticked, so every
 * picture and sound can be worked out for any frame. All frames are show frames: counts since the air began.
 */
import { type AutomationAir, createAutomationAir } from '../automation/air';
import { createDevicesAir, type DevicesAir } from '../devices/air';
import { createScreensAir, type ScreensAir } from '../screens/air';
import { createOrderAir, type OrderAir } from '../order/air';
import { type OutputRun } from '../output/air';
import { type AudienceAir, createAudienceAir } from '../audience/air';
import { createGuestsAir, type GuestsAir } from '../guests/air';
import { type Player } from '../media/air';
import { createGraphicsAir, type GraphicsAir } from '../graphics/air';
import { type Fade, restingFade } from '../time/fade';
import { type RunningTransition, type AirLane, createAirLane } from '../picture/air';
import { createReplayAir, type ReplayAir } from '../replay/air';
import { createSoundAir, type SoundAir } from '../sound/air';
import { type Show } from './show';

export interface Air {
  onAirId: string | null;
  nextId: string | null;
  transition: RunningTransition | null;
  /** 1 is fully black. */
  black: Fade;
  /** By lane identity. */
  lanes: Record<string, AirLane>;
  /** By source identity. */
  players: Record<string, Player>;
  /** Sources that give no picture, with the cause, as the engine has reported. */
  lost: Record<string, string>;
  recording: OutputRun | null;
  stream: OutputRun | null;
  replay: ReplayAir;
  sound: SoundAir;
  graphics: GraphicsAir;
  automation: AutomationAir;
  order: OrderAir;
  devices: DevicesAir;
  screens: ScreensAir;
  guests: GuestsAir;
  audience: AudienceAir;
}

/** The pair that commands work on. */
export interface Desk {
  show: Show;
  air: Air;
}

/** Nothing on air yet, every lane down. */
export function createAir(show: Show): Air {
  return {
    onAirId: null,
    nextId: null,
    transition: null,
    black: restingFade(0),
    lanes: Object.fromEntries(show.lanes.map((lane) => [lane.id, createAirLane()])),
    players: {},
    lost: {},
    recording: null,
    stream: null,
    replay: createReplayAir(),
    sound: createSoundAir(),
    graphics: createGraphicsAir(),
    automation: createAutomationAir(),
    order: createOrderAir(),
    devices: createDevicesAir(),
    screens: createScreensAir(),
    guests: createGuestsAir(),
    audience: createAudienceAir(),
  };
}
