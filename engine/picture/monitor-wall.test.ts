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
  wall.attach('tile', canvas(), { kind: 'source', id: 'a' });
  let content = 'one';
  const jobs = (desk = sampleDesk()) =>
    wall.jobs(desk.show, desk.air, planFrame(desk.show, desk.air, 0), () => content).map((job) => job.plan.base[0]?.texture);
  return { wall, jobs, change: (text: string) => (content = text) };
}

const ref = (id: string) => ({ kind: 'source', id });

describe('the monitor wall', () => {
  it('asks for Next at every change, for tiles at every second turn, and never for the programme', () => {
    const { jobs, change } = setup();
    expect(jobs()).toEqual([ref('b'), ref('a')]);
    change('two');
    expect(jobs()).toEqual([ref('b')]);
    change('three');
    expect(jobs()).toEqual([ref('b'), ref('a')]);
  });

  it('leaves out what has not changed, and draws again after a new size', () => {
    const { wall, jobs } = setup();
    jobs();
    jobs();
    expect(jobs()).toEqual([]);
    wall.resize('next', 32, 18);
    expect(jobs()).toEqual([ref('b')]);
    wall.detach('next');
    expect(jobs(must(sampleDesk(), 'picture.setNext', { source: 'c' }))).toEqual([]);
  });
});
