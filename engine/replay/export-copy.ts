/** Exports that keep the recorded packets: a clip at normal speed, or a whole angle. */
import { EncodedAudioPacketSource, EncodedPacket, EncodedVideoPacketSource, type Output } from 'mediabunny';
import { frameToMicros, type Rate } from '#core/time/rate';
import { pictureDecoder, soundDecoder } from './codec';
import { type Material } from './material';
import { type Packet, type TrackConfig } from './segment-format';

/** Packets of a track from the group that holds `from` up to `to` (show microseconds). */
async function* packetsBetween(
  material: Material,
  trackId: string,
  from: number,
  to: number,
): AsyncGenerator<{ packet: Packet; config: TrackConfig }> {
  for (const segment of material.segmentsOf(trackId)) {
    if (segment.to <= from || segment.from >= to) continue;
    for (let index = 0; index < segment.groups.length; index += 1) {
      const end = segment.groups[index + 1]?.stamp ?? segment.to;
      const start = segment.groups[index]?.stamp ?? 0;
      if (end <= from || start >= to) continue;
      const { packets } = await material.read({ segment, index });
      for (const packet of packets) if (packet.stamp < to) yield { packet, config: segment.config };
    }
  }
}

/** True when the span of an angle can be copied: it is recorded in one form throughout. */
export function canCopy(material: Material, angleId: string, from: number, to: number): boolean {
  const touched = material.segmentsOf(angleId).filter((s) => s.to > from && s.from < to);
  const forms = new Set(touched.map((s) => JSON.stringify(s.config)));
  return touched.length > 0 && forms.size === 1;
}

/**
 * Puts the packets of a span into `output`, its times counted from `from`. What lies before it, back to a key frame, gets
 * negative times: the container (an edit list in MP4) leaves it out when it plays. Returns the frames that are seen.
 */
export async function copySpan(
  material: Material,
  output: Output,
  angleId: string,
  soundTrack: string | undefined,
  span: { from: number; to: number },
  rate: Rate,
  progress: (share: number) => void,
): Promise<number> {
  const from = frameToMicros(span.from, rate);
  const to = frameToMicros(span.to, rate);
  const first = material.segmentsOf(angleId).find((s) => s.to > from && s.from < to);
  if (!first || first.config.kind !== 'picture') throw new Error('nothing of it is recorded any more');
  const video = new EncodedVideoPacketSource('avc');
  output.addVideoTrack(video, { frameRate: rate.num / rate.den });
  const withSound = soundTrack !== undefined && material.segmentsOf(soundTrack).some((s) => s.to > from && s.from < to);
  const audio = withSound ? new EncodedAudioPacketSource('opus') : null;
  if (audio) output.addAudioTrack(audio);
  await output.start();
  let frames = 0;
  const sounds = audio && soundTrack !== undefined ? packetsBetween(material, soundTrack, from, to) : null;
  let sound = sounds ? await sounds.next() : null;
  let [seenVideo, seenAudio] = [false, false];
  const addSound = async (until: number) => {
    while (audio && sounds && sound && !sound.done && sound.value.packet.stamp <= until) {
      const { packet, config } = sound.value;
      if (packet.stamp + packet.duration > from) {
        await audio.add(encoded(packet, from), seenAudio || config.kind !== 'sound' ? undefined : { decoderConfig: soundDecoder(config) });
        seenAudio = true;
      }
      sound = await sounds.next();
    }
  };
  for await (const { packet, config } of packetsBetween(material, angleId, from, to)) {
    await addSound(packet.stamp);
    await video.add(encoded(packet, from), seenVideo || config.kind !== 'picture' ? undefined : { decoderConfig: pictureDecoder(config) });
    seenVideo = true;
    if (packet.stamp >= from) frames += 1;
    progress((packet.stamp - from) / (to - from));
  }
  await addSound(to);
  return frames;
}

const encoded = (packet: Packet, from: number): EncodedPacket =>
  new EncodedPacket(packet.data, packet.key ? 'key' : 'delta', (packet.stamp - from) / 1e6, packet.duration / 1e6);
