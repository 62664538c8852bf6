/** Words for the place where something is used: "box Left of Wide", "key of Names". */
import { Macro } from '../automation/document';
import { Trigger } from '../automation/document';
import { Box, Framing, Layout, Preset, Seat, Style } from '../layout/document';
import { Entry, Graphic } from '../graphics/document';
import { Element } from '../graphics/element';
import { entryName } from '../graphics/find';
import { ButtonPage, PageButton } from '../buttons/document';
import { Audience, QueuedComment } from '../audience/document';
import { Cast, Gathering, Guest } from '../guests/document';
import { Device, DeviceMessage } from '../devices/document';
import { OrderItem } from '../order/document';
import { Lane, Override, StoredTransition, Tableau, Transition } from '../picture/document';
import { Angle, Clip } from '../replay/document';
import { ScreenOutput } from '../screens/document';
import { Layer, NamedPlace, Screen, Surface, SurfacePreset } from '../screens/surface';
import { type Constructor } from '../schema/fields';
import { Source } from '../show/source';
import { AirPath, InputChannel, Listener, Patch, Send } from '../sound/document';
import { nameOf } from './entities';
import { type FoundRef } from './refs';
import { type Show } from './show';

/** `within` says of what it is a part, where it is one. */
type Words = (value: never, show: Show, within: string) => string;

const say = <T extends object>(of: Constructor<T>, words: (value: T, show: Show, within: string) => string): [Constructor, Words] => [
  of,
  words,
];

const PLACES = new Map<Constructor, Words>([
  say(Box, (box, _, within) => `box ${box.name} of ${within}`),
  say(Layout, (layout) => layout.name),
  say(Preset, (preset) => preset.name),
  say(Framing, (framing) => `framing ${framing.name}`),
  say(Seat, (seat) => `seat ${seat.name}`),
  say(Style, (style) => `style ${style.name}`),
  say(Lane, (lane) => lane.name),
  say(Graphic, (graphic) => graphic.name),
  say(Element, (element, _, within) => `${element.name} of ${within}`),
  say(Entry, (entry, show, within) => {
    const graphic = show.graphics.list.find((g) => g.entries.includes(entry));
    return graphic ? `${entryName(graphic, entry)} of ${graphic.name}` : within;
  }),
  say(Tableau, (tableau) => `tableau ${tableau.name}`),
  say(Macro, (macro) => `macro ${macro.name}`),
  say(ButtonPage, (page) => `page of buttons ${page.name}`),
  say(PageButton, (button, _, within) => `button ${button.name || button.place + 1} of ${within}`),
  say(Device, (device) => `device ${device.name}`),
  say(DeviceMessage, (message, _, within) => `message ${message.name} of ${within}`),
  say(OrderItem, (item) => `item ${item.name} of the running order`),
  say(ScreenOutput, (output) => `output ${output.name}`),
  say(Surface, (surface) => `surface ${surface.name}`),
  say(Screen, (screen, _, within) => `screen ${screen.name} of ${within}`),
  say(Layer, (layer, _, within) => `layer ${layer.name} of ${within}`),
  say(NamedPlace, (place, _, within) => `place ${place.name} of ${within}`),
  say(SurfacePreset, (preset) => `preset ${preset.name}`),
  say(Trigger, (trigger) => `trigger ${trigger.name}`),
  say(StoredTransition, (stored) => `transition ${stored.name}`),
  say(Transition, (_, _show, within) => within || 'the armed transition'),
  say(Override, ({ fromId, toId }, show) =>
    fromId === null
      ? `the transition of its own to ${nameOf(show, 'picture', toId)}`
      : `the transition of its own from ${nameOf(show, 'picture', fromId)} to ${nameOf(show, 'picture', toId)}`,
  ),
  say(Angle, (angle, show) => `the replay angle ${nameOf(show, 'view', angle.pictureId)}`),
  say(Clip, (clip) => `clip ${clip.name}`),
  say(Guest, (guest) => `guest ${guest.name}`),
  say(Gathering, (gathering) => gathering.name),
  say(Audience, () => 'where comments are shown'),
  say(QueuedComment, (comment) => `the comment of ${comment.name}`),
  say(Cast, (cast) => `cast ${cast.name}`),
  say(Source, (source) => source.name),
  say(InputChannel, (channel) => `channel ${channel.name}`),
  say(Listener, (listener) => `listener ${listener.name}`),
  say(Send, (send, show) => `the send to ${nameOf(show, 'bus', send.busId)}`),
  say(Patch, (patch) => `what is plugged into ${patch.to.deviceLabel || 'the default device'}, pair ${patch.to.pair}`),
  say(AirPath, () => 'a way through the air'),
]);

/** The place of a reference in words. */
export function placeOf(show: Show, { holders, ref }: FoundRef): string {
  let place = '';
  let as = ref.as;
  for (const { of, value, field } of holders) {
    as ||= field?.as ?? '';
    const words = PLACES.get(of);
    if (words) place = words(value as never, show, place);
  }
  return as && place ? `${as} ${place}` : as || place;
}
