/** The way to a device of each kind. */
import { type DeviceSettings, type OscSettings } from '#core/devices/document';
import { decodeOsc, encodeOsc, OscError } from '#core/devices/osc';
import { oscWords, readArguments } from '#core/devices/osc-words';
import { DeviceError, type Link, type LinkEvents } from './link';
import { HttpLink } from './http-link';
import { PacketLink } from './packet-link';
import { asText, type Carried, openerFor, StreamLink } from './stream-link';

/** OSC as bytes of a packet, and packets as lines of words. */
const asOsc: Pick<Carried, 'bytes' | 'words'> = {
  bytes: ({ path, text }) => {
    try {
      return encodeOsc({ address: path, args: readArguments(text) });
    } catch (error) {
      throw new DeviceError(error instanceof OscError ? error.message : 'This is no OSC message.');
    }
  },
  words: (bytes) => {
    try {
      return decodeOsc(bytes).map((m) => oscWords(m).slice(0, 4000));
    } catch (error) {
      if (error instanceof OscError) return [`(no OSC: ${error.message})`];
      throw error;
    }
  },
};

const isUdp = (settings: OscSettings): settings is OscSettings & { carrier: 'udp' } => settings.carrier === 'udp';

/** The way to a device; null for kinds that the server does not reach. `openMs` is how long a connection may take. */
export function linkFor(settings: DeviceSettings, events: LinkEvents, openMs: number): Link | null {
  switch (settings.kind) {
    case 'http':
      return new HttpLink(settings, events);
    case 'tcp':
    case 'websocket':
      return new StreamLink({ open: openerFor(settings), ...asText }, events, openMs);
    case 'udp':
      return new PacketLink(settings, asText, events);
    case 'osc':
      if (isUdp(settings)) return new PacketLink(settings, asOsc, events);
      return new StreamLink({ open: openerFor(settings), ...asOsc }, events, openMs);
    case 'midi':
      return null;
  }
}
