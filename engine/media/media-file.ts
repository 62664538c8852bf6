/** Opens a media file for reading in a worker: as far as it is whole, and with errors that people understand. */
import { ALL_FORMATS, BlobSource, Input } from 'mediabunny';
import { type ByteReader, scanContainer } from './container-scan';
import { MediaTrouble } from './media-trouble';

/** What workers have and pages do not. */
declare const FileReaderSync: new () => { readAsArrayBuffer(blob: Blob): ArrayBuffer };

/** Bytes read at a time while looking at the structure. */
const WINDOW = 65_536;

/** Reads a blob without waiting; in workers only. */
function readerOf(blob: Blob): ByteReader {
  const files = new FileReaderSync();
  let start = 0;
  let bytes = new Uint8Array(0);
  return {
    size: blob.size,
    read(from, length) {
      if (from < start || from + length > start + bytes.length) {
        start = from;
        bytes = new Uint8Array(files.readAsArrayBuffer(blob.slice(from, from + Math.max(length, WINDOW))));
      }
      return bytes.subarray(from - start, from - start + length);
    },
  };
}

/** The file ready to be demuxed. @throws MediaTrouble when nothing of it is whole. */
export function openMedia(file: Blob): Input {
  const { sound, tail, damage } = scanContainer(readerOf(file));
  if (sound === 0) throw new MediaTrouble(damage ?? 'it is empty');
  const whole = sound < file.size ? file.slice(0, sound, file.type) : file;
  return new Input({ source: new BlobSource(tail ? new Blob([whole, tail], { type: file.type }) : whole), formats: ALL_FORMATS });
}
