/** The channel between a show and the jog panel, in this window or in one of its own. */
import { type ControlEvent } from '#core/control/control';

export const PANEL_CHANNEL = 'bivoca-jog-panel';

/** What the panel shows of the chosen deck. */
export interface PanelState {
  deck: 1 | 2;
  sign: string;
  live: boolean;
  code: string;
  speed: number;
}

/** The panel's side: sends what hands do, and hears how the deck stands. */
export function openPanel(show: (state: PanelState) => void): { send: (event: ControlEvent) => void; close: () => void } {
  const channel = new BroadcastChannel(PANEL_CHANNEL);
  channel.onmessage = ({ data }: MessageEvent<{ state?: PanelState }>) => data.state && show(data.state);
  return { send: (event) => channel.postMessage({ event }), close: () => channel.close() };
}

/** Tells every panel how the deck stands, until the returned function is called. */
export function tellPanels(read: () => PanelState): () => void {
  const channel = new BroadcastChannel(PANEL_CHANNEL);
  let last = '';
  const timer = setInterval(() => {
    const state = read();
    const text = JSON.stringify(state);
    if (text !== last) channel.postMessage({ state });
    last = text;
  }, 80);
  return () => {
    clearInterval(timer);
    channel.close();
  };
}
