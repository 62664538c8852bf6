/** How the engine has fared over the last minutes. */
import { LineChart } from 'echarts/charts';
import { GridComponent, LegendComponent, TooltipComponent } from 'echarts/components';
import { type EChartsType, init, use as register } from 'echarts/core';
import { CanvasRenderer } from 'echarts/renderers';
import { useEffect, useRef } from 'react';
import { framesPerSecond } from '#core/time/rate';
import { type HealthSample } from '#engine/client/state';
import { useLive } from '../client/show-client';
import { Figure } from './figure';

register([LineChart, GridComponent, LegendComponent, TooltipComponent, CanvasRenderer]);

const AXIS = {
  axisLabel: { color: '#8fa5a3', fontSize: 13, hideOverlap: true },
  splitLine: { lineStyle: { color: '#28393d' } },
  axisLine: { lineStyle: { color: '#28393d' } },
};

interface Line {
  name: string;
  colour: string;
  value: (sample: HealthSample, before: HealthSample | undefined) => number;
}

function Chart({ label, unit, samples, lines }: { label: string; unit: string; samples: HealthSample[]; lines: Line[] }) {
  const box = useRef<HTMLDivElement>(null);
  const chart = useRef<EChartsType>(null);
  useEffect(() => {
    if (!box.current) return undefined;
    const made = init(box.current, null, { renderer: 'canvas' });
    chart.current = made;
    const observer = new ResizeObserver(() => made.resize());
    observer.observe(box.current);
    return () => {
      observer.disconnect();
      made.dispose();
    };
  }, []);
  useEffect(() => {
    chart.current?.setOption({
      animation: false,
      grid: { left: 44, right: 12, top: 26, bottom: 22 },
      legend: { top: 0, right: 0, textStyle: { color: '#e8efe9' }, itemWidth: 14, itemHeight: 3 },
      tooltip: { trigger: 'axis', valueFormatter: (v: unknown) => `${Number(v).toFixed(1)} ${unit}` },
      xAxis: { type: 'time', ...AXIS, splitNumber: 4, splitLine: { show: false } },
      yAxis: { type: 'value', min: 0, minInterval: unit === 'frames' ? 1 : 0, ...AXIS },
      series: lines.map(({ name, colour, value }) => ({
        name,
        type: 'line',
        showSymbol: false,
        lineStyle: { width: 1.5, color: colour },
        itemStyle: { color: colour },
        data: samples.map((s, i) => [s.at, value(s, samples[i - 1])]),
      })),
    });
  }, [samples, lines, unit]);
  return (
    <figure>
      <figcaption className="text-xs text-muted">{label}</figcaption>
      <div ref={box} className="h-32 w-full" role="img" aria-label={label} />
    </figure>
  );
}

const FRAME_LINES: Line[] = [{ name: 'one frame', colour: '#e2c48d', value: (s) => s.drawMs }];
const LOSS_LINES: Line[] = [
  { name: 'dropped', colour: '#ff5a4f', value: (s, b) => (b ? s.dropped - b.dropped : 0) },
  { name: 'late', colour: '#f2b84b', value: (s, b) => (b ? s.late - b.late : 0) },
];
const RATE_LINES: Line[] = [
  { name: 'recording', colour: '#ff5a4f', value: (s) => s.recordingBitrate / 1e6 },
  { name: 'stream', colour: '#4fd1a5', value: (s) => s.streamBitrate / 1e6 },
];

/** How the engine fared over the last minutes. */
export function HealthCharts() {
  const { samples, mixer, encoder, working, rate, clock } = useLive(({ samples, mixer, encoder, working, desk: { show } }) => ({
    samples,
    mixer: `${mixer.dropped} ${mixer.late} ${mixer.monitorsSkipped}`,
    encoder,
    working,
    rate: show.rate,
    clock: samples.length,
  }));
  const [dropped, late, skipped] = mixer.split(' ');
  const budget = (1000 / framesPerSecond(rate)) * working.frameStep;
  return (
    <section aria-label="Engine" className="border-t border-line pt-4" data-samples={clock}>
      <h2 className="text-lg font-semibold">Engine</h2>
      <p className="text-xs text-muted">
        {working.notice || `Working at ${working.raster.width}×${working.raster.height}`}. A frame may take {budget.toFixed(0)} ms.
      </p>
      <div className="my-2 flex flex-wrap gap-5">
        <Figure label="dropped" value={dropped ?? '0'} tone={dropped === '0' ? undefined : 'caution'} />
        <Figure label="late" value={late ?? '0'} />
        <Figure label="monitors left out" value={skipped ?? '0'} />
        <Figure label="doubled in files" value={String(encoder.doubled)} />
      </div>
      <Chart label="Milliseconds for a programme frame" unit="ms" samples={samples} lines={FRAME_LINES} />
      <Chart label="Frames dropped and late, each second" unit="frames" samples={samples} lines={LOSS_LINES} />
      <Chart label="Megabits a second" unit="Mb/s" samples={samples} lines={RATE_LINES} />
    </section>
  );
}
