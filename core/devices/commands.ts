/** Commands for devices outside and for what is said to them. The engine sends what is new in air, and tells what was heard. */
import { CommandError, defineCommand } from '../commands/command';
import { type Desk } from '../desk/air';
import { remove } from '../desk/remove';
import { Flag, Num, OneOf, Ref, Refs, Text, Variant, Whole } from '../schema/fields';
import { plainCopy } from '../schema/plain-copy';
import { rightSettings } from './address';
import { createDevice, createMessage, firstSettings } from './create';
import {
  type Device,
  DEVICE_KINDS,
  type DeviceKind,
  type DeviceSettings,
  deviceSettingsClass,
  type Method,
  METHODS,
  MOST_DEVICES,
  MOST_MESSAGES,
  MOST_PATH,
  MOST_SAID,
} from './document';
import { deviceOf, messageOf } from './find';
import { fillHoles } from './holes';
import { checkSaid } from './problems';

class DeviceArg {
  @Ref('device', 'device') device!: string;
}
class AddArgs {
  @OneOf(DEVICE_KINDS, 'kind') kind!: DeviceKind;
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
}
class SetArgs extends DeviceArg {
  @Text(60, 'name', { min: 1, optional: true }) name?: string;
  @Flag('on', { optional: true }) on?: boolean;
  @Variant(deviceSettingsClass, 'where it is; put right where it is sure what is meant', { optional: true }) settings?: DeviceSettings;
  @Flag('it answers', { optional: true }) answers?: boolean;
  @Num(0.1, 30, 'seconds that an answer may take', { optional: true }) waitSeconds?: number;
  @Whole(0, 5, 'how often it is tried again', { optional: true }) retries?: number;
}
class SwitchArgs extends DeviceArg {
  @Flag('on') on!: boolean;
}
class MessageFields {
  @Text(80, 'name', { min: 1, optional: true }) name?: string;
  @OneOf(METHODS, 'method, of HTTP', { optional: true }) method?: Method;
  @Text(MOST_PATH, 'path of HTTP, or address of OSC', { optional: true }) path?: string;
  @Text(MOST_SAID, 'text, arguments of OSC, or the MIDI message', { optional: true }) text?: string;
  @Flag('sent by itself whenever what its holes say changes', { optional: true }) follows?: boolean;
}
class AddMessageArgs extends MessageFields {
  @Ref('device', 'device') device!: string;
}
class SetMessageArgs extends MessageFields {
  @Ref('message', 'message') message!: string;
}
class MessagesArg {
  @Refs('message', MOST_MESSAGES, 'messages') messages!: string[];
}
class SendArgs {
  @Ref('message', 'message') message!: string;
  @Text(500, 'what `{value}` in it stands for', { optional: true }) value?: string;
}
class SayArgs extends DeviceArg {
  @OneOf(METHODS, 'method, of HTTP', { optional: true }) method?: Method;
  @Text(MOST_PATH, 'path of HTTP, or address of OSC', { optional: true }) path?: string;
  @Text(MOST_SAID, 'text, arguments of OSC, or the MIDI message') text!: string;
}
class HeardArgs extends DeviceArg {
  @Text(MOST_SAID, 'what it said, as one line') text!: string;
}

/** What was sent, and what was heard, that is kept. */
const MOST_KEPT = 100;

/** Puts something to be sent into air. @throws CommandError when the device is off, or this cannot be said to it. */
function say(
  desk: Desk,
  device: Device,
  name: string,
  out: { method: Method; path: string; text: string },
  frame: number,
  value = '',
): void {
  if (!device.on) throw new CommandError('device-off', `${device.name} is off: nothing is sent to it.`, 'device');
  const path = fillHoles(out.path, desk, frame, value);
  const text = fillHoles(out.text, desk, frame, value);
  const fault = path.faults[0] ?? text.faults[0];
  if (fault) throw new CommandError('bad-message', `${name} to ${device.name}: ${fault.message}.`, 'message');
  const filled = { method: out.method, path: path.text, text: text.text };
  checkSaid(device.settings.kind, filled);
  const { devices } = desk.air;
  devices.last += 1;
  devices.sent = [...devices.sent.slice(1 - MOST_KEPT), { number: devices.last, frame, deviceId: device.id, name, ...filled }];
}

export const deviceCommands = [
  defineCommand({
    type: 'device.add',
    unrecorded: true,
    atHost: true,
    title: 'Add a device',
    about: 'A device outside, reached by HTTP, TCP, UDP, WebSocket, OSC or MIDI. Returns its `id`.',
    args: AddArgs,
    run: ({ show }, { kind, name }, { newId }) => {
      if (show.devices.length >= MOST_DEVICES) throw new CommandError('too-many', `A show has at most ${MOST_DEVICES} devices.`);
      const device = createDevice(newId(), name ?? `Device ${show.devices.length + 1}`, firstSettings(kind));
      show.devices.push(device);
      return { id: device.id };
    },
  }),
  defineCommand({
    type: 'device.set',
    unrecorded: true,
    atHost: true,
    title: 'Set up a device',
    about:
      'Its name, where it is, whether it answers, how long is waited and how often tried again. An address is put right where it is sure what is meant, which is returned as `done`; its port never changes.',
    args: SetArgs,
    mergeKey: ({ device, ...change }) => `device:${device}:${Object.keys(change).join()}`,
    run: (desk, { device: id, settings, ...change }) => {
      const device = deviceOf(desk, id);
      const righted = settings && rightSettings(settings);
      if (righted && !righted.ok) throw new CommandError('bad-address', righted.message, 'settings');
      Object.assign(device, change);
      if (righted) device.settings = plainCopy(righted.settings);
      return { done: righted?.done ?? [] };
    },
  }),
  defineCommand({
    type: 'device.remove',
    unrecorded: true,
    title: 'Remove a device',
    about: 'With its messages. What is on its way to it is not sent any more.',
    args: DeviceArg,
    run: (desk, { device }) => remove(desk, 'device', deviceOf(desk, device).id),
  }),
  defineCommand({
    type: 'device.switch',
    title: 'Switch a device on or off',
    says: 'Switch {device} {on}',
    about: 'Off, nothing is sent to it and it is not heard.',
    args: SwitchArgs,
    run: (desk, { device, on }) => {
      deviceOf(desk, device).on = on;
    },
  }),
  defineCommand({
    type: 'message.add',
    unrecorded: true,
    title: 'Add a message to a device',
    about: 'What is to be sent, with holes that are filled at the moment of sending. Returns its `id`.',
    args: AddMessageArgs,
    run: (desk, { device: id, ...fields }, { newId }) => {
      const device = deviceOf(desk, id);
      if (device.messages.length >= MOST_MESSAGES) throw new CommandError('too-many', `A device has at most ${MOST_MESSAGES} messages.`);
      const message = createMessage(newId(), fields.name ?? `Message ${device.messages.length + 1}`, fields);
      device.messages.push(message);
      return { id: message.id };
    },
  }),
  defineCommand({
    type: 'message.set',
    unrecorded: true,
    title: 'Set up a message',
    about: 'Its name, what it says, and whether it is sent by itself when that changes.',
    args: SetMessageArgs,
    mergeKey: ({ message, ...change }) => `message:${message}:${Object.keys(change).join()}`,
    run: (desk, { message, ...change }) => {
      Object.assign(messageOf(desk, message).message, change);
    },
  }),
  defineCommand({
    type: 'message.duplicate',
    unrecorded: true,
    title: 'Duplicate messages',
    about: 'Copies stand behind theirs. Returns their `ids`.',
    args: MessagesArg,
    run: (desk, { messages }, { newId }) => {
      const ids = messages.map((id) => {
        const { device, message } = messageOf(desk, id, 'messages');
        if (device.messages.length >= MOST_MESSAGES) throw new CommandError('too-many', `A device has at most ${MOST_MESSAGES} messages.`);
        const copy = { ...plainCopy(message), id: newId() };
        device.messages.splice(device.messages.indexOf(message) + 1, 0, copy);
        return copy.id;
      });
      return { ids };
    },
  }),
  defineCommand({
    type: 'message.remove',
    unrecorded: true,
    title: 'Remove messages',
    about: 'Steps that send them say so.',
    args: MessagesArg,
    run: (desk, { messages }) => {
      for (const id of messages) remove(desk, 'message', messageOf(desk, id, 'messages').message.id);
    },
  }),
  defineCommand({
    type: 'device.send',
    title: 'Send a message to its device',
    says: 'Send {message}',
    about:
      'Its holes are filled at the frame at which it is sent. A device that is away holds nothing up: what became of it stands in the log.',
    args: SendArgs,
    run: (desk, { message: id, value }, { frame }) => {
      const { device, message } = messageOf(desk, id);
      say(desk, device, message.name, message, frame, value);
    },
  }),
  defineCommand({
    type: 'device.say',
    title: 'Say something to a device',
    says: 'Say {text} to {device}',
    about: 'A text that is no stored message, such as one out of the log.',
    args: SayArgs,
    run: (desk, { device: id, method = 'POST', path = '', text }, { frame }) => {
      const device = deviceOf(desk, id);
      say(desk, device, path || text.slice(0, 80), { method, path, text }, frame);
    },
  }),
  defineCommand({
    type: 'device.heard',
    title: 'Tell what a device has said',
    about: 'Sent by the engine. Triggers look at it.',
    args: HeardArgs,
    fromEngine: true,
    run: (desk, { device, text }) => {
      const { devices } = desk.air;
      devices.last += 1;
      devices.heard = [...devices.heard.slice(1 - MOST_KEPT), { number: devices.last, deviceId: device, text }];
    },
  }),
];
