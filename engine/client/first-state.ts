/** What rooms read of a show before anything has happened in it. */
import { type Desk } from '#core/desk/air';
import { EMPTY_HISTORY } from '#core/desk/history';
import { type WorkingFormat } from '#core/picture/capability';
import { IDLE_ENCODER } from '../output/messages';
import { type ShowState } from './state';

export const firstState = (desk: Desk, working: WorkingFormat): ShowState => ({
  desk,
  history: EMPTY_HISTORY,
  held: [],
  health: {},
  sizes: {},
  encoder: IDLE_ENCODER,
  recordingFailed: false,
  replay: null,
  replayCache: 0,
  samples: [],
  renderer: null,
  working,
  space: null,
  sheets: {},
  devices: {},
  soundAwake: false,
  remote: false,
  notices: [],
  failure: null,
});
