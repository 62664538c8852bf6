/** The signals of EBU Tech 3341 and 3342, made from their descriptions. */
import { describe, expect, it } from 'vitest';
import { headShelf, rlbHighPass } from './k-weighting';
import { LoudnessMeter, type LoudnessReading } from './loudness-meter';
import { TruePeak } from './true-peak';

const RATE = 48_000;
const amp = (db: number) => 10 ** (db / 20);

/** A stretch of a stereo sine of 1 kHz: peak level in dBFS, seconds. */
type Part = readonly [db: number, seconds: number];

/** Feeds parts one after another and calls `each` after every 10 ms. */
function measure(
  parts: readonly Part[],
  each: ((reading: LoudnessReading, seconds: number) => void) | undefined = undefined,
  meter = new LoudnessMeter(RATE),
): LoudnessReading {
  let n = 0;
  let time = 0;
  for (const [db, seconds] of parts) {
    const end = n + Math.round(seconds * RATE);
    while (n < end) {
      const count = Math.min(96, end - n);
      const x = Float32Array.from({ length: count }, (_, i) => amp(db) * Math.sin((2 * Math.PI * 1000 * (n + i)) / RATE));
      meter.process([x, x], count);
      n += count;
      if (each && n - time >= 480) {
        time = n;
        each(meter.read(), n / RATE);
      }
    }
  }
  return meter.read();
}

const within = (value: number, wanted: number, tolerance: number) => {
  expect(value).toBeGreaterThanOrEqual(wanted - tolerance);
  expect(value).toBeLessThanOrEqual(wanted + tolerance);
};

describe('K-weighting', () => {
  it('has the coefficients that BS.1770 prints for 48 kHz', () => {
    const head = headShelf(RATE);
    for (const [key, value] of Object.entries({
      b0: 1.53512485958697,
      b1: -2.69169618940638,
      b2: 1.19839281085285,
      a1: -1.69065929318241,
      a2: 0.73248077421585,
    }))
      expect(head[key as 'b0']).toBeCloseTo(value, 8);
    const rlb = rlbHighPass(RATE);
    expect(rlb.a1).toBeCloseTo(-1.99004745483398, 8);
    expect(rlb.a2).toBeCloseTo(0.99007225036621, 8);
  });
});

describe('EBU Tech 3341, minimum requirements', () => {
  it.each([
    ['1', -23],
    ['2', -33],
  ])('signal %s: momentary, short-term and integrated of a steady tone', (_, db) => {
    const r = measure([[db, 20]]);
    for (const value of [r.momentary, r.shortTerm, r.integrated]) within(value, db, 0.1);
  });

  it.each([
    [
      '3',
      [
        [-36, 10],
        [-23, 60],
        [-36, 10],
      ],
    ],
    [
      '4',
      [
        [-72, 10],
        [-36, 10],
        [-23, 60],
        [-36, 10],
        [-72, 10],
      ],
    ],
    [
      '5',
      [
        [-26, 20],
        [-20, 20.1],
        [-26, 20],
      ],
    ],
  ] as [string, Part[]][])('signal %s: integrated with both gates', (_, parts) => {
    within(measure(parts).integrated, -23, 0.1);
  });

  it('signal 6: five channels with their weights', () => {
    const meter = new LoudnessMeter(RATE, [1, 1, 1, 0, 1.41, 1.41]);
    const levels = [-28, -28, -24, -200, -30, -30].map(amp);
    for (let n = 0; n < RATE * 20; n += 120) {
      const s = Float32Array.from({ length: 120 }, (_, i) => Math.sin((2 * Math.PI * 1000 * (n + i)) / RATE));
      meter.process(
        levels.map((l) => s.map((v) => v * l)),
        120,
      );
    }
    within(meter.read().integrated, -23, 0.1);
  });

  it('signal 9: short-term holds at −23.0 from three seconds on', () => {
    const parts = Array.from({ length: 5 }, (): Part[] => [
      [-20, 1.34],
      [-30, 1.66],
    ]).flat();
    measure(parts, (r, t) => t >= 3.01 && within(r.shortTerm, -23, 0.1));
  });

  it('signal 10: the highest short-term of a 3 s tone, wherever it begins', () => {
    for (let k = 0; k < 20; k += 4) {
      const r = measure([
        [-200, k * 0.15],
        [-23, 3],
        [-200, 1],
      ]);
      within(r.shortTermMax, -23, 0.1);
    }
  });

  it('signal 12: momentary holds at −23.0 from one second on', () => {
    const parts = Array.from({ length: 25 }, (): Part[] => [
      [-20, 0.18],
      [-30, 0.22],
    ]).flat();
    measure(parts, (r, t) => t >= 1 && within(r.momentary, -23, 0.1));
  });

  it('signal 13: the highest momentary of a 400 ms tone, wherever it begins', () => {
    for (let k = 0; k < 20; k += 3) {
      const r = measure([
        [-200, 0.4 + k * 0.02],
        [-23, 0.4],
        [-200, 1],
      ]);
      within(r.momentaryMax, -23, 0.1);
    }
  });

  it('signals 11 and 14: rising tones give rising maxima', () => {
    for (let k = 0; k < 20; k += 6) {
      const meter = new LoudnessMeter(RATE);
      const r = measure(
        [
          [-200, 0.5 + k * 0.02],
          [-38 + k, 3],
          [-200, 1],
        ],
        undefined,
        meter,
      );
      within(r.shortTermMax, -38 + k, 0.1);
      const m = measure([
        [-200, 0.4 + k * 0.02],
        [-38 + k, 0.4],
        [-200, 1],
      ]);
      within(m.momentaryMax, -38 + k, 0.1);
    }
  });
});

describe('true peak (EBU Tech 3341, signals 15 to 23)', () => {
  const peakOf = (signal: (n: number) => number, count = RATE) => {
    const meter = new TruePeak();
    for (let n = 0; n < count; n += 100)
      meter.process(
        Float32Array.from({ length: 100 }, (_, i) => signal(n + i)),
        100,
      );
    return 20 * Math.log10(meter.peak);
  };
  const allowed = (db: number, wanted: number) => {
    expect(db).toBeLessThanOrEqual(wanted + 0.2);
    expect(db).toBeGreaterThanOrEqual(wanted - 0.4);
  };

  // The level rises in over 10 ms, as a switched-on tone has true peaks of its own.
  const tone = (part: number, degrees: number, level: number) => (n: number) =>
    Math.min(1, n / 480) * level * Math.sin((2 * Math.PI * n) / part + (degrees * Math.PI) / 180);
  it.each([
    ['15', 4, 0, 0.5, -6],
    ['16', 4, 45, 0.5, -6],
    ['17', 6, 60, 0.5, -6],
    ['18', 8, 67.5, 0.5, -6],
    ['19', 4, 45, 1.41, 3],
  ])('signal %s', (_, part, degrees, level, wanted) => {
    allowed(peakOf(tone(part, degrees, level)), wanted);
  });

  it('signals 20 to 23: one period of a quarter-rate tone at full level within one at half, at any quarter sample', () => {
    for (let offset = 0; offset < 4; offset += 1) {
      // Made at four times the rate, band-limited by a wide windowed sinc, then every fourth sample is taken.
      const fine = (m: number) => (m >= 8000 && m < 8016 ? 1 : 0.5) * Math.sin((2 * Math.PI * m) / 16);
      const limited = (m: number) => {
        let sum = 0;
        for (let k = -128; k <= 128; k += 1) {
          const x = k / 4.4;
          const sinc = k === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x);
          sum += (fine(m + k) * sinc * (0.5 + 0.5 * Math.cos((Math.PI * k) / 129))) / 4.4;
        }
        return sum;
      };
      const x = Array.from({ length: 400 }, (_, n) => limited(4 * (n + 1800) + offset));
      const finest = Math.max(...Array.from({ length: 1600 }, (_, m) => Math.abs(limited(m + 7200 + offset))));
      allowed(
        peakOf((n) => x[n] ?? 0, 400),
        20 * Math.log10(finest),
      );
    }
  });

  it('sees a peak in a quiet place behind a loud one only when it is higher', () => {
    const meter = new TruePeak();
    const feed = (signal: (n: number) => number) => {
      for (let n = 0; n < 4800; n += 100)
        meter.process(
          Float32Array.from({ length: 100 }, (_, i) => signal(n + i)),
          100,
        );
    };
    feed(tone(4, 45, 0.5));
    const first = meter.peak;
    feed(tone(4, 45, 0.1));
    // The break between the two has a small peak of its own.
    expect(meter.peak).toBeLessThan(first * 1.03);
    feed(tone(4, 45, 0.8));
    expect(20 * Math.log10(meter.peak / 0.8)).toBeCloseTo(0, 1);
  });
});

describe('loudness range (EBU Tech 3342)', () => {
  it.each([
    [
      '1',
      [
        [-20, 20],
        [-30, 20],
      ],
      10,
    ],
    [
      '2',
      [
        [-20, 20],
        [-15, 20],
      ],
      5,
    ],
    [
      '3',
      [
        [-40, 20],
        [-20, 20],
      ],
      20,
    ],
    [
      '4',
      [
        [-50, 20],
        [-35, 20],
        [-20, 20],
        [-35, 20],
        [-50, 20],
      ],
      15,
    ],
  ] as [string, Part[], number][])('signal %s', (_, parts, lu) => {
    within(measure(parts).range, lu, 1);
  });
});

describe('a measurement', () => {
  it('begins anew, stops, and lets momentary run on', () => {
    const meter = new LoudnessMeter(RATE);
    measure([[-10, 5]], undefined, meter);
    meter.restart();
    expect(meter.read().seconds).toBe(0);
    within(measure([[-30, 5]], undefined, meter).integrated, -30, 0.6);
    meter.stop();
    const stopped = meter.read().integrated;
    const after = measure([[-10, 2]], undefined, meter);
    expect(after.integrated).toBe(stopped);
    within(after.momentary, -10, 0.1);
  });
});
