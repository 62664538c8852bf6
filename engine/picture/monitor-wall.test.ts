import { describe, expect, it } from 'vitest';
import { planFrame } from '#core/picture/plan';
import { must, sampleDesk } from '#tests/support/sample-show';
import { MonitorWall } from './monitor-wall';

/** As much of a canvas as a wall looks at. */
const canvas = () => ({ width: 16, height: 9, getContext: () => ({ drawImage: () => undefined }) }) as unknown as OffscreenCanvas;

function setup() {
  const wall = new MonitorWall();
  wall.attach('air', canvas(), { kind: 'programme' });
  wall.attach('next', canvas(), { kind: 'next' });
  wall.attach('tile', canvas(), { kind: 'picture', id: 'a' });
  let content = 'one';
  const jobs = (desk = sampleDesk()) =>
    wall
      .jobs(desk.show, desk.air, planFrame(desk.show, desk.air, 0), PROGRAMME, () => content)
      .map((job) => {
        job.done();
        return job.plan.base[0]?.texture;
      });
  return { wall, jobs, change: (text: string) => (content = text) };
}

const PROGRAMME = { kind: 'output', id: 'programme' } as const;
const ref = (id: string) => ({ kind: 'source', id });

describe('the monitor wall', () => {
  it('asks for the programme and Next at every change, and for tiles at every second turn', () => {
    const { jobs, change } = setup();
    expect(jobs()).toEqual([PROGRAMME, ref('b')]);
    change('two');
    expect(jobs()).toEqual([PROGRAMME, ref('b'), ref('a')]);
    change('three');
    expect(jobs()).toEqual([PROGRAMME, ref('b')]);
    change('four');
    expect(jobs()).toEqual([PROGRAMME, ref('b'), ref('a')]);
  });

  it('lets those come first that have waited longest, and everybody has a turn when there is time for a few only', () => {
    const { wall } = setup();
    for (let i = 0; i < 7; i += 1) wall.attach(`tile ${i}`, canvas(), { kind: 'picture', id: 'a' });
    const desk = sampleDesk();
    const round = () => wall.jobs(desk.show, desk.air, planFrame(desk.show, desk.air, 0), PROGRAMME, () => String(Math.random()));
    const drawn = new Map<unknown, number>();
    for (let i = 0; i < 40; i += 1) {
      for (const job of round().slice(0, 4)) {
        job.done();
        drawn.set(job.context, (drawn.get(job.context) ?? 0) + 1);
      }
    }
    expect(drawn.size).toBe(10);
    const counts = [...drawn.values()].sort((a, b) => b - a);
    expect(counts.slice(0, 2)).toEqual([40, 40]);
    expect(Math.min(...counts)).toBeGreaterThanOrEqual(9);
  });

  it('asks for less at a slower pace, and for coarser pictures', () => {
    const { wall, jobs, change } = setup();
    wall.setPace({ tileStep: 4, nextStep: 2, scale: 0.5 });
    const counts = { next: 0, tile: 0 };
    for (let i = 0; i < 40; i += 1) {
      change(String(i));
      for (const texture of jobs()) {
        if (texture?.kind === 'source' && texture.id === 'b') counts.next += 1;
        if (texture?.kind === 'source' && texture.id === 'a') counts.tile += 1;
      }
    }
    expect(counts).toEqual({ next: 20, tile: 10 });
    change('last');
    const desk = sampleDesk();
    expect(
      wall.jobs(desk.show, desk.air, planFrame(desk.show, desk.air, 0), PROGRAMME, () => 'last').map((j) => [j.width, j.height]),
    ).toContainEqual([8, 5]);
  });

  it('leaves out what has not changed, and draws again after a new size', () => {
    const { wall, jobs } = setup();
    jobs();
    jobs();
    expect(jobs()).toEqual([]);
    wall.resize('next', 32, 18);
    expect(jobs()).toEqual([ref('b')]);
    wall.detach('next');
    expect(jobs(must(sampleDesk(), 'picture.setNext', { picture: 'c' }))).toEqual([]);
  });
});
