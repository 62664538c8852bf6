/** Recording: its settings, start and stop. */
import { useEffect, useState } from 'react';
import { recordingRoom } from '#core/output/storage-budget';
import { type Codec } from '#core/output/document';
import { formatBytes, formatDuration } from '#core/time/duration';
import { supportedCodecs } from '#engine/output/codecs';
import { useShow, useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { HoldButton } from '../parts/hold-button';
import { BitrateField } from './bitrate-field';
import { OutputSelect } from './output-select';
import { bitrateText, Figure } from './figure';

const NAMES: Record<Codec, string> = { h264: 'MP4 · H.264', vp9: 'WebM · VP9', av1: 'WebM · AV1' };

/** Codecs this browser can really encode at the working size; null until it has said. */
function useCodecs(): Codec[] | null {
  const { working, rate } = useShow(({ working, desk: { show } }) => ({ working, rate: show.rate }));
  const [codecs, setCodecs] = useState<Codec[] | null>(null);
  const { width, height } = working.raster;
  useEffect(() => {
    let gone = false;
    void supportedCodecs({ bitrate: 4e6, raster: { width, height }, rate, frameStep: working.frameStep }).then(
      (list) => !gone && setCodecs(list),
    );
    return () => {
      gone = true;
    };
  }, [width, height, rate, working.frameStep]);
  return codecs;
}

export function RecordingPanel() {
  const send = useSend();
  const codecs = useCodecs();
  const { settings, on, status, space } = useShow(({ desk: { show, air }, encoder, space }) => ({
    settings: show.output.recording,
    on: air.recording !== null,
    status: encoder.recording,
    space,
  }));
  const perSecond = status?.bitrate ? status.bitrate / 8 : (settings.megabits * 1e6 + 160_000) / 8;
  const room = space ? recordingRoom(space.free, perSecond) : null;
  const usable = codecs?.includes(settings.codec) ?? true;
  return (
    <section aria-label="Recording">
      <div className="flex items-center justify-between">
        <h2 className="text-lg font-semibold">Recording</h2>
        {on ? (
          <HoldButton look="air" onHeld={() => send('output.stopRecording')}>
            Hold to stop
          </HoldButton>
        ) : (
          <Button
            look="straw"
            unusable={usable ? null : 'This browser cannot encode the chosen codec.'}
            onClick={() => send('output.startRecording')}
          >
            Start recording
          </Button>
        )}
      </div>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <label className="flex flex-col gap-0.5">
          <span className="text-xs text-muted">Form</span>
          <select disabled={on} value={settings.codec} onChange={(e) => send('output.setRecording', { codec: e.target.value })}>
            {(codecs ?? [settings.codec]).map((codec) => (
              <option key={codec} value={codec}>
                {NAMES[codec]}
              </option>
            ))}
            {!usable && <option value={settings.codec}>{NAMES[settings.codec]} (not here)</option>}
          </select>
        </label>
        <OutputSelect
          label="Picture of the recording"
          disabled={on}
          value={settings.outputId}
          onChange={(outputId) => send('output.setRecording', { outputId })}
        />
        <BitrateField
          hint="More is sharper and larger: 4 to 8 Mb/s suit 1280 × 720, 8 to 16 suit 1920 × 1080"
          most={100}
          megabits={settings.megabits}
          onCommit={(megabits) => send('output.setRecording', { megabits })}
        />
      </div>
      <div className="mt-3 flex flex-wrap gap-5">
        <Figure label={on ? 'recorded' : 'not recording'} value={formatDuration(status?.seconds ?? 0)} tone={on ? 'air' : undefined} />
        <Figure label="size" value={formatBytes(status?.bytes ?? 0)} />
        <Figure label="bitrate" value={bitrateText(status?.bitrate ?? 0)} />
        <Figure
          label="time left on disk"
          value={room ? formatDuration(Math.min(room.secondsLeft, 359_999)) : '–'}
          tone={room?.warn ? 'caution' : undefined}
        />
        <Figure label="free" value={space ? formatBytes(space.free) : '–'} />
      </div>
    </section>
  );
}
