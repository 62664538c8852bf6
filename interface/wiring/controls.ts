/** The controllers that are wired in. */
import { type ControlDriver } from '#engine/control/driver';
import { gamepadDriver } from '#engine/control/gamepad-driver';
import { hidDriver } from '#engine/control/hid-driver';
import { midiDriver } from '#engine/control/midi-driver';
import { panelDriver } from '#standins/control/panel-driver';

export const CONTROLS: readonly ControlDriver[] = [midiDriver, gamepadDriver, hidDriver, panelDriver];
