/** Gives other windows of this browser the outputs they want. */
import { findOutput } from '#core/screens/outputs';
import { type Follower, type HostAccess } from '../host/follower';
import { WINDOW_FRAMES } from '../picture/frame-outlet';
import { openBroker } from './broker';
import { type ToBroker, type Wanted } from './messages';

export class OutputBroker implements Follower {
  private readonly line = openBroker();

  constructor(showId: string, host: Pick<HostAccess, 'state' | 'mixer'>) {
    this.say({ type: 'host', showId });
    this.line.onmessage = ({ data: { outputId, port } }: MessageEvent<Wanted>) => {
      const output = findOutput(host.state().desk.show, outputId);
      if (output) host.mixer.sendOutput(output, port, WINDOW_FRAMES, 'planes');
      else port.close();
    };
  }

  private say(message: ToBroker): void {
    this.line.postMessage(message);
  }

  close(): void {
    this.say({ type: 'host-gone' });
    this.line.close();
  }
}
