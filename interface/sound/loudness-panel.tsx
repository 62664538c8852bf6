/** Loudness over time, targets and reports. */
import { LineChart } from 'echarts/charts';
import { GridComponent, LegendComponent, MarkLineComponent, TooltipComponent } from 'echarts/components';
import { type EChartsType, init, use as register } from 'echarts/core';
import { CanvasRenderer } from 'echarts/renderers';
import { useEffect, useRef } from 'react';
import { useStore } from 'zustand';
import { loudnessCsv, PEAK_LIMIT, TOLERANCE_LU, verdict } from '#core/sound/loudness/report';
import { type LoudnessReading, SILENT_READING } from '#core/sound/loudness/loudness-meter';
import { formatDuration } from '#core/time/duration';
import { useShowClient, useShow, useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { NumberField } from '../parts/number-field';
import { saveFile } from '../parts/save-file';
import { setSoundRoom, useSoundRoom } from './room-state';
import { dbWords } from './words';

register([LineChart, GridComponent, LegendComponent, TooltipComponent, MarkLineComponent, CanvasRenderer]);

const TARGETS = [
  [-23, '−23 · EBU R 128, television'],
  [-16, '−16 · web and podcast'],
  [-14, '−14 · music and video sites'],
] as const;

/** Lowest loudness drawn, LUFS. */
const FLOOR = -60;

function Chart({ busId, target }: { busId: string; target: number }) {
  const host = useShowClient();
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const element = box.current;
    if (!element) return undefined;
    const chart: EChartsType = init(element, null, { renderer: 'canvas' });
    const observer = new ResizeObserver(() => chart.resize());
    observer.observe(element);
    const draw = () => {
      const points = host.sound.history.of(busId);
      const line = (name: string, colour: string, of: (p: (typeof points)[0]) => number, width = 1.5) => ({
        name,
        type: 'line',
        showSymbol: false,
        lineStyle: { width, color: colour },
        itemStyle: { color: colour },
        data: points.map((p) => [p.at, Math.max(FLOOR, of(p))]),
      });
      chart.setOption({
        animation: false,
        grid: { left: 40, right: 10, top: 26, bottom: 22 },
        legend: { top: 0, right: 0, textStyle: { color: '#e8efe9' }, itemWidth: 14, itemHeight: 3 },
        tooltip: { trigger: 'axis', valueFormatter: (v: unknown) => `${Number(v).toFixed(1)} LUFS` },
        xAxis: {
          type: 'value',
          min: 'dataMin',
          max: 'dataMax',
          axisLabel: { color: '#8fa5a3', formatter: (s: number) => formatDuration(s) },
          splitLine: { show: false },
          axisLine: { lineStyle: { color: '#28393d' } },
        },
        yAxis: {
          type: 'value',
          min: FLOOR,
          max: 0,
          interval: 12,
          axisLabel: { color: '#8fa5a3' },
          splitLine: { lineStyle: { color: '#28393d' } },
        },
        series: [
          {
            ...line('short-term', '#4fd1a5', (p) => p.shortTerm),
            markLine: {
              silent: true,
              symbol: 'none',
              lineStyle: { color: '#f2b84b' },
              label: { color: '#f2b84b', position: 'insideStartTop', formatter: `target ${target}` },
              data: [{ yAxis: target }],
            },
          },
          line('momentary', '#8fa5a3', (p) => p.momentary, 1),
          line('integrated', '#e2c48d', (p) => p.integrated, 2),
        ],
      });
    };
    draw();
    const timer = setInterval(draw, 1000);
    return () => {
      clearInterval(timer);
      observer.disconnect();
      chart.dispose();
    };
  }, [host, busId, target]);
  return <div ref={box} className="h-52 w-full" role="img" aria-label="Loudness over time" />;
}

function Figure({ label, value, unit, large, tone }: { label: string; value: number; unit: string; large?: boolean; tone?: string }) {
  return (
    <div>
      <p className="text-[13px] text-muted">{label}</p>
      <p className={`figures whitespace-nowrap ${large ? 'text-2xl' : 'text-lg'} ${tone ?? ''}`}>
        {Number.isFinite(value) && value > -100 ? dbWords(value) : '−'} <span className="text-[13px] text-muted">{unit}</span>
      </p>
    </div>
  );
}

const shown = (r: LoudnessReading | undefined) => r ?? SILENT_READING;

/** Loudness of a bus after ITU-R BS.1770 and EBU R 128, now and over time. */
export function LoudnessPanel() {
  const host = useShowClient();
  const send = useSend();
  const busId = useSoundRoom((s) => s.loudnessBus);
  const { buses, target, run, name } = useShow(({ desk: { show, air } }) => ({
    buses: show.sound.buses,
    target: show.sound.targetLufs,
    run: air.sound.loudness[busId],
    name: show.name,
  }));
  const reading = useStore(host.sound.store, (s) => shown(s.loudness[busId]));
  const bus = buses.find((b) => b.id === busId) ?? buses[0];
  const watchedId = bus?.id ?? null;
  useEffect(() => {
    host.sound.watch(watchedId);
    return () => host.sound.watch(null);
  }, [host, watchedId]);
  if (!bus) return null;
  const { met, text } = verdict(reading, target);
  const running = run !== undefined && run.stop === null;
  const report = () => {
    const csv = loudnessCsv({
      show: name,
      bus: bus.name,
      made: new Date(),
      targetLufs: target,
      reading,
      points: host.sound.history.of(bus.id),
    });
    const file = `${name} ${bus.name} loudness.csv`;
    saveFile(new File([csv], file, { type: 'text/csv' }), file);
  };
  const near = Number.isFinite(reading.integrated) && Math.abs(reading.integrated - target) <= TOLERANCE_LU;
  return (
    <div className="flex flex-col gap-2 p-2">
      <div className="flex flex-wrap items-center gap-2">
        <select aria-label="Bus whose loudness is shown" value={bus.id} onChange={(e) => setSoundRoom({ loudnessBus: e.target.value })}>
          {buses.map((b) => (
            <option key={b.id} value={b.id}>
              {b.name}
            </option>
          ))}
        </select>
        <Button
          look={running ? 'plain' : 'straw'}
          title={running ? 'Begins anew' : 'Measures integrated loudness, range and true peak from now on'}
          onClick={() => send('loudness.start', { bus: bus.id })}
        >
          {running ? 'Begin anew' : 'Start'}
        </Button>
        <Button unusable={running ? null : 'Nothing is being measured.'} onClick={() => send('loudness.stop', { bus: bus.id })}>
          Stop
        </Button>
        <Button look="quiet" unusable={run ? null : 'There is nothing to forget.'} onClick={() => send('loudness.reset', { bus: bus.id })}>
          Reset
        </Button>
      </div>
      <div className="grid grid-cols-3 gap-2">
        <Figure label="Integrated" value={reading.integrated} unit="LUFS" large tone={near ? 'text-next' : ''} />
        <Figure label="Short-term, 3 s" value={reading.shortTerm} unit="LUFS" large />
        <Figure label="Momentary" value={reading.momentary} unit="LUFS" large />
        <Figure label="Range" value={reading.seconds > 0 ? reading.range : NaN} unit="LU" />
        <Figure label="True peak" value={reading.truePeak} unit="dBTP" tone={reading.truePeak > PEAK_LIMIT ? 'text-air' : ''} />
        <Figure label="Highest short-term" value={reading.shortTermMax} unit="LUFS" />
      </div>
      <p className={met ? 'text-next' : 'text-caution'} role="status">
        {text.charAt(0).toUpperCase() + text.slice(1)}{' '}
        <span className="figures text-muted">({formatDuration(Math.floor(reading.seconds))})</span>
      </p>
      <Chart busId={bus.id} target={target} />
      <div className="flex flex-wrap items-center gap-2">
        <select
          aria-label="Usual loudness targets"
          value={TARGETS.some(([t]) => t === target) ? target : ''}
          onChange={(e) => e.target.value && send('loudness.setTarget', { lufs: Number(e.target.value) })}
        >
          <option value="">another target</option>
          {TARGETS.map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </select>
        <NumberField
          label="Loudness target, LUFS"
          className="w-28"
          unit="LUFS"
          min={-40}
          max={-5}
          whole={0}
          digits={1}
          value={target}
          onCommit={(lufs) => send('loudness.setTarget', { lufs })}
        />
        <Button className="ml-auto" onClick={report}>
          Save a report
        </Button>
      </div>
    </div>
  );
}
