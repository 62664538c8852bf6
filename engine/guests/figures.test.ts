import { expect, it } from 'vitest';
import { figuresOf, shortOf } from './figures';

const report = (...rows: Record<string, unknown>[]) => new Map(rows.map((row, i) => [String(i), row])) as unknown as RTCStatsReport;
const sent = (qualityLimitationReason: string, kind = 'video') => ({ type: 'outbound-rtp', kind, qualityLimitationReason });

it('are short of a line or a machine when the browser says so of a picture that they send', () => {
  expect(shortOf(report())).toBe('');
  expect(shortOf(report(sent('none'), { type: 'inbound-rtp', kind: 'video', qualityLimitationReason: 'cpu' }))).toBe('');
  expect(shortOf(report(sent('cpu')))).toBe('machine');
  expect(shortOf(report(sent('cpu'), sent('bandwidth')))).toBe('line');
  expect(shortOf(report(sent('bandwidth', 'audio')))).toBe('');
});

it('have rates of what has come since the last look, and none before the second', () => {
  const inbound = (bytesReceived: number, packetsLost: number) =>
    report({
      type: 'inbound-rtp',
      kind: 'video',
      frameWidth: 640,
      frameHeight: 360,
      bytesReceived,
      packetsReceived: bytesReceived / 100,
      packetsLost,
    });
  const first = figuresOf(inbound(1000, 0), null);
  expect(first.figures).toMatchObject({ width: 640, height: 360, kilobits: 0, delayMs: null });
  const later = figuresOf(inbound(101_000, 250), { ...first.raw, at: performance.now() - 2000 });
  expect(later.figures.kilobits).toBeGreaterThan(380);
  expect(later.figures.kilobits).toBeLessThanOrEqual(400);
  expect(later.figures.lostShare).toBeCloseTo(0.2, 5);
});
