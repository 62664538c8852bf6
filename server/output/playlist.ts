/** HLS playlists (RFC 8216) of a live stream. */
import { type InitInfo } from './isobmff';

export interface PlaylistSegment {
  number: number;
  /** Seconds. */
  start: number;
  duration: number;
}

/** A hole longer than this, seconds, is a break: players go on after it at once. */
const LONGEST_GAP = 60;

/** Media playlist of one track; a hole in time becomes an EXT-X-GAP, a long one a discontinuity, so that players go on after it. */
export function mediaPlaylist(segments: readonly PlaylistSegment[]): string {
  const lines: string[] = [];
  let longest = 1;
  segments.forEach((segment, i) => {
    const before = segments[i - 1];
    const missing = before ? segment.start - (before.start + before.duration) : 0;
    if (missing > LONGEST_GAP) lines.push('#EXT-X-DISCONTINUITY');
    else if (before && missing > 0.1) {
      longest = Math.max(longest, missing);
      lines.push('#EXT-X-GAP', `#EXTINF:${missing.toFixed(5)},`, `${name(before.number)}?gap`);
    }
    longest = Math.max(longest, segment.duration);
    lines.push(`#EXTINF:${segment.duration.toFixed(5)},`, name(segment.number));
  });
  const head = [
    '#EXTM3U',
    '#EXT-X-VERSION:8',
    `#EXT-X-TARGETDURATION:${Math.ceil(longest)}`,
    `#EXT-X-MEDIA-SEQUENCE:${segments[0]?.number ?? 0}`,
    '#EXT-X-INDEPENDENT-SEGMENTS',
    '#EXT-X-MAP:URI="init.mp4"',
  ];
  return `${[...head, ...lines].join('\n')}\n`;
}

const name = (number: number) => `${String(number).padStart(6, '0')}.m4s`;

/** Master playlist: one picture, with its sound as a group of its own. */
export function masterPlaylist(video: InitInfo, audio: InitInfo | null, bandwidth: number): string {
  const lines = ['#EXTM3U', '#EXT-X-VERSION:8', '#EXT-X-INDEPENDENT-SEGMENTS'];
  if (audio)
    lines.push('#EXT-X-MEDIA:TYPE=AUDIO,GROUP-ID="sound",NAME="Programme",DEFAULT=YES,AUTOSELECT=YES,CHANNELS="2",URI="audio/index.m3u8"');
  const codecs = [video.codec, ...(audio ? [audio.codec] : [])].join(',');
  const sound = audio ? ',AUDIO="sound"' : '';
  lines.push(
    `#EXT-X-STREAM-INF:BANDWIDTH=${Math.round(bandwidth)},CODECS="${codecs}",RESOLUTION=${video.width}x${video.height}${sound}`,
    'video/index.m3u8',
  );
  return `${lines.join('\n')}\n`;
}
