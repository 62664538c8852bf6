/** The simulated jog-shuttle panel: a driver of the same shape as a real controller's, over a channel between windows. */
import { type ControlEvent } from '#core/control/control';
import { type ControlDriver } from '#engine/control/driver';
import { PANEL_CHANNEL } from '#engine/control/panel-channel';

export const panelDriver: ControlDriver = {
  id: 'panel',
  label: 'Jog panel on screen',
  open(listen, state) {
    const channel = new BroadcastChannel(PANEL_CHANNEL);
    channel.onmessage = ({ data }: MessageEvent<{ event?: ControlEvent }>) => data.event && listen(data.event);
    state('ready');
    return () => channel.close();
  },
};
