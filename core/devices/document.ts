/** Devices outside in the show document: where they are, how they answer, and the messages that are sent to them. */
import { byKind, Flag, Id, ListOf, Num, OneOf, Text, Variant, Whole } from '../schema/fields';

export const MOST_DEVICES = 100;
export const MOST_MESSAGES = 500;
/** Characters of what a message says, before and after its holes are filled. */
export const MOST_SAID = 4000;
/** Characters of where it says it: a path, or an OSC address. */
export const MOST_PATH = 500;

const PORT_ABOUT = 'port, 1 to 65535';

/** How the end of a text is told over TCP. */
export const ENDINGS = ['lf', 'crlf', 'cr', 'nul', 'none'] as const;
/** How OSC is carried: packets of UDP; over TCP with their length before them (OSC 1.0), or SLIP between END bytes (OSC 1.1). */
export const CARRIERS = ['udp', 'tcp-length', 'tcp-slip'] as const;
export const METHODS = ['GET', 'POST', 'PUT', 'PATCH', 'DELETE'] as const;
export type Method = (typeof METHODS)[number];

export class HttpSettings {
  @OneOf(['http'], 'requests of HTTP') kind!: 'http';
  @Text(2000, 'address that paths are put behind: http://host:port') address!: string;
}
export class TcpSettings {
  @OneOf(['tcp'], 'texts over TCP') kind!: 'tcp';
  @Text(253, 'host: a name or an address') host!: string;
  @Whole(1, 65_535, PORT_ABOUT) port!: number;
  @OneOf(ENDINGS, 'how a text ends') ending!: (typeof ENDINGS)[number];
}
export class UdpSettings {
  @OneOf(['udp'], 'texts in packets of UDP') kind!: 'udp';
  @Text(253, 'host: a name or an address') host!: string;
  @Whole(1, 65_535, PORT_ABOUT) port!: number;
  @Whole(1, 65_535, 'port of this machine that it is heard on; null for the one that is sent from', { nullable: true }) listens!:
    number | null;
}
export class SocketSettings {
  @OneOf(['websocket'], 'texts over a WebSocket') kind!: 'websocket';
  @Text(2000, 'address: ws://host:port/path') address!: string;
}
export class OscSettings {
  @OneOf(['osc'], 'OSC') kind!: 'osc';
  @Text(253, 'host: a name or an address') host!: string;
  @Whole(1, 65_535, PORT_ABOUT) port!: number;
  @OneOf(CARRIERS, 'how it is carried') carrier!: (typeof CARRIERS)[number];
  @Whole(1, 65_535, 'port of this machine that it is heard on, over UDP; null for the one that is sent from', { nullable: true }) listens!:
    number | null;
}
export class MidiSettings {
  @OneOf(['midi'], 'MIDI, at the machine that runs the show') kind!: 'midi';
  @Text(200, 'name of the port, as the machine calls it') port!: string;
}
export type DeviceSettings = HttpSettings | TcpSettings | UdpSettings | SocketSettings | OscSettings | MidiSettings;
export type DeviceKind = DeviceSettings['kind'];
export const DEVICE_KINDS = ['http', 'tcp', 'udp', 'websocket', 'osc', 'midi'] as const satisfies readonly DeviceKind[];
export const deviceSettingsClass = byKind<DeviceKind>({
  http: HttpSettings,
  tcp: TcpSettings,
  udp: UdpSettings,
  websocket: SocketSettings,
  osc: OscSettings,
  midi: MidiSettings,
});

/** What is sent to a device. In path and text, holes such as `{clock: Heat clock}` are filled at the moment at which it is sent. */
export class DeviceMessage {
  @Id('identity') id!: string;
  @Text(80, 'name', { min: 1 }) name!: string;
  @OneOf(METHODS, 'method, of HTTP') method!: Method;
  @Text(MOST_PATH, 'path of HTTP, or address of OSC') path!: string;
  @Text(MOST_SAID, 'text; for OSC its arguments, for MIDI the message in words') text!: string;
  @Flag('sent by itself whenever what its holes say changes') follows!: boolean;
}

export class Device {
  @Id('identity') id!: string;
  @Text(60, 'name', { min: 1 }) name!: string;
  @Flag('on: messages are sent, and it is heard') on!: boolean;
  @Variant(deviceSettingsClass, 'where it is') settings!: DeviceSettings;
  @Flag('it answers: what is not answered in time is sent again') answers!: boolean;
  @Num(0.1, 30, 'seconds that a connection and an answer may take') waitSeconds!: number;
  @Whole(0, 5, 'how often it is tried again') retries!: number;
  @ListOf(() => DeviceMessage, MOST_MESSAGES, 'messages') messages!: DeviceMessage[];
}
