/** A play-out as an OpenTimelineIO document (schema names and versions as in OTIO 0.17). */
import { type Rate } from '../time/rate';
import { type EditEvent } from './edit-list';

interface Otio {
  OTIO_SCHEMA: string;
  [field: string]: unknown;
}

/** Where the recording of an angle lies: its file, and the timeline frames it holds. */
export interface AngleFile {
  fileName: string;
  from: number;
  to: number;
}

/**
 * The events as a timeline of one video track. Every clip names the exported recording of its angle; speeds are linear time
 * warps, dissolves are transitions that lie half before and half after the cut they stand at.
 */
export function otioTimeline(name: string, events: readonly EditEvent[], rate: Rate, files: ReadonlyMap<string, AngleFile>): string {
  const fps = rate.num / rate.den;
  const time = (value: number): Otio => ({ OTIO_SCHEMA: 'RationalTime.1', rate: fps, value });
  const range = (start: number, duration: number): Otio => ({
    OTIO_SCHEMA: 'TimeRange.1',
    start_time: time(start),
    duration: time(duration),
  });
  const children: Otio[] = [];
  events.forEach((event, i) => {
    // The cut lies within the overlap: what comes after it of the old clip and before it of the new one is their transition.
    const before = Math.ceil(event.dissolve / 2);
    const after = Math.floor((events[i + 1]?.dissolve ?? 0) / 2);
    if (event.dissolve > 0) {
      children.push({
        OTIO_SCHEMA: 'Transition.1',
        name: 'Dissolve',
        transition_type: 'SMPTE_Dissolve',
        in_offset: time(before),
        out_offset: time(event.dissolve - before),
        metadata: {},
      });
    }
    const factor = event.speed / 100;
    const duration = event.recordOut - event.recordIn - before - after;
    const file = files.get(event.angleId);
    children.push({
      OTIO_SCHEMA: 'Clip.2',
      name: event.clip,
      source_range: range(event.sourceIn + Math.round(before * factor), duration),
      effects:
        event.speed === 100
          ? []
          : [{ OTIO_SCHEMA: 'LinearTimeWarp.1', name: '', effect_name: 'LinearTimeWarp', time_scalar: factor, metadata: {} }],
      markers: [],
      metadata: {},
      enabled: true,
      active_media_reference_key: 'DEFAULT_MEDIA',
      media_references: {
        DEFAULT_MEDIA: file
          ? {
              OTIO_SCHEMA: 'ExternalReference.1',
              name: event.angle,
              target_url: encodeURIComponent(file.fileName),
              available_range: range(file.from, file.to - file.from),
              metadata: {},
            }
          : { OTIO_SCHEMA: 'MissingReference.1', name: event.angle, available_range: null, metadata: {} },
      },
    });
  });
  const timeline: Otio = {
    OTIO_SCHEMA: 'Timeline.1',
    name,
    global_start_time: null,
    metadata: {},
    tracks: {
      OTIO_SCHEMA: 'Stack.1',
      name: 'tracks',
      source_range: null,
      effects: [],
      markers: [],
      metadata: {},
      enabled: true,
      children: [
        {
          OTIO_SCHEMA: 'Track.1',
          name: 'Pictures',
          kind: 'Video',
          source_range: null,
          effects: [],
          markers: [],
          metadata: {},
          enabled: true,
          children,
        },
      ],
    },
  };
  return JSON.stringify(timeline, null, 2);
}
