/** Packets between encoder and muxers. */
import { type EncodedPacket } from 'mediabunny';

/** `packet` with its time counted from `base`, show microseconds. */
export function shifted(packet: EncodedPacket, base: number): EncodedPacket {
  return packet.clone({ timestamp: packet.timestamp - base / 1e6 });
}
