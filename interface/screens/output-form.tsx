/** One output: name, what it shows, its pixels, and where its window stands. */
import { Trash2 } from 'lucide-react';
import { entitiesOf } from '#core/desk/entities';
import { MOST_FRAME_STEP, PATTERNS, type ScreenOutput, type Shows } from '#core/screens/document';
import { framesPerSecond, type Rate } from '#core/time/rate';
import { useSend, useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { Check, Choice, Line, Part, ThingChoice } from '../parts/fields';
import { IconButton } from '../parts/icon-button';
import { RasterField } from '../shows/raster-field';
import { useWindowPlace } from '../programme/kept-windows';
import { findDisplays, useDisplays } from './displays';
import { PATTERN_CHOICES, SHOWS_WORDS } from '#core/screens/words';

/** What it shows when another kind is chosen. */
const firstOf = (kind: Shows['kind'], surfaceId: string | null): Shows => {
  if (kind === 'picture') return { kind, pictureId: null };
  if (kind === 'surface') return { kind, surfaceId };
  if (kind === 'canvas') return { kind, surfaceId, which: 'air', drawn: true };
  return kind === 'test' ? { kind, pattern: PATTERNS[0] } : { kind };
};

/** How many frames a second leave. */
function rateWords(rate: Rate, step: number): string {
  const each = step === 1 ? 'every frame' : `each ${step}${step === 2 ? 'nd' : step === 3 ? 'rd' : 'th'} frame`;
  return `${Math.round((framesPerSecond(rate) / step) * 100) / 100} a second, ${each}`;
}

export function OutputForm({ output, open }: { output: ScreenOutput; open: boolean }) {
  const place = useWindowPlace(useShowClient().showId, output.id);
  const send = useSend();
  const show = useShow(({ desk }) => desk.show);
  const working = useShow((s) => s.working.raster);
  const { list, trouble } = useDisplays();
  const { id, shows, display: label } = output;
  const set = (change: Partial<ScreenOutput>) => send('screen.set', { output: id, ...change });
  const away = list !== null && label !== '' && !list.some((d) => d.label === label);
  const displays = [
    ['', 'dragged by hand'] as const,
    ...(list ?? []).map((d) => [d.label, `${d.label} (${d.width}×${d.height})`] as const),
    ...(label !== '' && !list?.some((d) => d.label === label) ? [[label, `${label}${away ? ' (away)' : ''}`] as const] : []),
  ];
  const display = list?.find((d) => d.label === label);
  const own = output.raster ?? show.raster;
  const differs = display && (display.width !== own.width || display.height !== own.height);
  return (
    <div>
      <Part
        title="Output"
        action={
          <IconButton label={`Remove ${output.name}`} onClick={() => send('screen.remove', { output: id })}>
            <Trash2 size={15} />
          </IconButton>
        }
      >
        <Line strong showLabel max={60} label="Name of the output" value={output.name} onSave={(name) => set({ name })} />
      </Part>
      <Part title="What it shows">
        <Choice
          label="It shows"
          value={shows.kind}
          all={Object.entries(SHOWS_WORDS) as [Shows['kind'], string][]}
          onChange={(kind) => set({ shows: firstOf(kind, show.screens.surfaces[0]?.id ?? null) })}
        />
        {shows.kind === 'picture' && (
          <ThingChoice
            label="Picture"
            pictures
            value={shows.pictureId}
            all={entitiesOf(show, 'picture')}
            onChange={(pictureId) => set({ shows: { kind: 'picture', pictureId } })}
          />
        )}
        {(shows.kind === 'surface' || shows.kind === 'canvas') && (
          <ThingChoice
            label="Surface"
            value={shows.surfaceId}
            all={show.screens.surfaces}
            onChange={(surfaceId) => set({ shows: { ...shows, surfaceId } })}
          />
        )}
        {shows.kind === 'canvas' && (
          <>
            <Choice
              label="Of it"
              value={shows.which}
              all={[
                ['air', 'what is on air'],
                ['next', 'what is in Next'],
              ]}
              onChange={(which) => set({ shows: { ...shows, which } })}
            />
            <Check label="with its screens drawn" on={shows.drawn} onChange={(drawn) => set({ shows: { ...shows, drawn } })} />
          </>
        )}
        {shows.kind === 'test' && (
          <Choice
            label="Test picture"
            value={shows.pattern}
            all={PATTERN_CHOICES}
            onChange={(pattern) => set({ shows: { kind: 'test', pattern } })}
          />
        )}
      </Part>
      <Part title="Pixels">
        <Check
          label={`as the show: ${show.raster.width}×${show.raster.height}${working.width === show.raster.width ? '' : `, worked in ${working.width}×${working.height}`}`}
          on={output.raster === null}
          onChange={(as) => set({ raster: as ? null : { ...show.raster } })}
        />
        {output.raster && <RasterField value={output.raster} onChange={(raster) => set({ raster: { ...raster } })} />}
      </Part>
      <Part title="Rate">
        <Choice
          label="Frames that leave"
          value={String(output.frameStep)}
          all={Array.from({ length: MOST_FRAME_STEP }, (_, i) => [String(i + 1), rateWords(show.rate, i + 1)])}
          onChange={(step) => set({ frameStep: Number(step) })}
        />
      </Part>
      <Part title="Window">
        <Choice label="Display" value={label} all={displays} onChange={(display) => set({ display })} />
        {list === null && (
          <Button onClick={() => void findDisplays()} title="The browser asks whether this page may know the displays of this machine">
            Find the displays
          </Button>
        )}
        {trouble !== '' && <p className="text-[13px] text-caution">{trouble}</p>}
        {away && <p className="text-[13px] text-caution">{label} is not there now. Its window opens beside this one.</p>}
        {differs && (
          <p className="text-[13px] text-caution">
            The display has {display.width}×{display.height}, the output {own.width}×{own.height}: it is scaled.{' '}
            <Button
              onClick={() => set({ raster: { width: display.width - (display.width % 2), height: display.height - (display.height % 2) } })}
            >
              Take {display.width}×{display.height}
            </Button>
          </p>
        )}
        {place && !place.full && label !== '' && open && (
          <p className="text-[13px] text-caution">Its window does not fill the display: press F in it, once.</p>
        )}
        <p className="text-[13px] text-muted">F in the window, or a double press, fills the display.</p>
      </Part>
    </div>
  );
}
