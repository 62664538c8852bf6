/** Draws what each of the four cameras sees of the flight, with the time burned in. */
import { drawStrip } from './frame-strip';
import { type Raster } from '#core/show/raster';
import { type SimulatedCamera } from '#core/show/source';
import { frameToSeconds, type Rate } from '#core/time/rate';
import { formatTimecode } from '#core/time/timecode';
import { type Painter } from '#engine/capture/drawn-source';
import { createCameraSound } from './camera-sound';
import { type Flight, flightAt, type Point } from './flight';

type Context = OffscreenCanvasRenderingContext2D;

interface View {
  label: string;
  /** Drawn once: everything that stands still. */
  backdrop(c: Context): void;
  /** Drawn for every frame over the backdrop. All views draw on a stage of 640 × 360. */
  live(c: Context, f: Flight): void;
}

const STAGE = { width: 640, height: 360 };
const KITE_COLOURS = ['#ff7a59', '#ffd166', '#4fd1a5'];

function gradient(c: Context, y0: number, y1: number, stops: string[]): CanvasGradient {
  const g = c.createLinearGradient(0, y0, 0, y1);
  stops.forEach((colour, i) => g.addColorStop(i / (stops.length - 1), colour));
  return g;
}

function polygon(c: Context, colour: string, points: [number, number][]): void {
  c.fillStyle = colour;
  c.beginPath();
  points.forEach(([x, y], i) => (i === 0 ? c.moveTo(x, y) : c.lineTo(x, y)));
  c.fill();
}

/** A delta kite with a striped tail, its nose up before rolling. */
function kite(c: Context, x: number, y: number, size: number, roll: number, time: number): void {
  c.save();
  c.translate(x, y);
  c.rotate(roll);
  polygon(c, KITE_COLOURS[0] as string, [
    [0, -size],
    [size, size * 0.55],
    [0, size * 0.25],
  ]);
  polygon(c, KITE_COLOURS[1] as string, [
    [0, -size],
    [-size, size * 0.55],
    [0, size * 0.25],
  ]);
  polygon(c, KITE_COLOURS[2] as string, [
    [0, -size],
    [size * 0.28, size * 0.3],
    [-size * 0.28, size * 0.3],
  ]);
  c.lineWidth = Math.max(1, size * 0.09);
  for (let i = 0; i < 3; i += 1) {
    c.strokeStyle = KITE_COLOURS[i] as string;
    c.beginPath();
    for (let s = 0; s <= 6; s += 1) {
      const px = (i - 1) * size * 0.14 + Math.sin(time * 6 + s * 0.9 + i) * size * 0.16;
      const py = size * (0.3 + s * 0.32);
      if (s === 0) c.moveTo(px, py);
      else c.lineTo(px, py);
    }
    c.stroke();
  }
  c.restore();
}

function waves(c: Context, top: number, bottom: number, swell: number, colour: string): void {
  c.strokeStyle = colour;
  c.lineWidth = 2;
  for (let i = 0; i < 5; i += 1) {
    const depth = (i + 1) / 5;
    const y = top + (bottom - top) * depth * depth;
    c.beginPath();
    for (let x = -20; x <= 660; x += 40) {
      const dy = Math.sin(x * 0.03 + swell * (1 + depth) + i * 2) * 3 * depth;
      if (x === -20) c.moveTo(x, y + dy);
      else c.lineTo(x, y + dy);
    }
    c.stroke();
  }
}

const shore: View = {
  label: 'SHORE WIDE',
  backdrop(c) {
    c.fillStyle = gradient(c, 0, 230, ['#6db3cf', '#cfe6e4', '#f3e3c3']);
    c.fillRect(0, 0, 640, 232);
    c.fillStyle = gradient(c, 228, 330, ['#2c6f86', '#184a5c']);
    c.fillRect(0, 228, 640, 110);
    polygon(c, '#3d5a4d', [
      [0, 228],
      [0, 196],
      [70, 186],
      [150, 205],
      [220, 228],
    ]);
    c.fillStyle = '#d9c396';
    c.fillRect(0, 328, 640, 32);
    c.fillStyle = '#4a3c30';
    c.fillRect(300, 268, 340, 12);
    for (let x = 312; x < 640; x += 34) c.fillRect(x, 280, 7, 48);
    c.fillStyle = '#e8efe9';
    c.fillRect(560, 222, 44, 46);
    polygon(c, '#b8503f', [
      [552, 222],
      [582, 200],
      [612, 222],
    ]);
  },
  live(c, f) {
    waves(c, 236, 324, f.swell, 'rgba(220,240,240,0.35)');
    const x = 330 + f.kite.x * 6.2;
    const y = 262 - f.kite.z * 5.4;
    c.strokeStyle = 'rgba(30,40,45,0.55)';
    c.lineWidth = 1;
    c.beginPath();
    c.moveTo(330, 256);
    c.quadraticCurveTo((330 + x) / 2, (256 + y) / 2 + 18, x, y);
    c.stroke();
    c.fillStyle = '#22343a';
    c.fillRect(326, 246, 8, 22);
    kite(c, x, y, 20, f.roll, f.swell);
    for (let i = 0; i < 9; i += 1) {
      c.fillStyle = i % 2 ? '#7a4b41' : '#2f5a66';
      c.fillRect(30 + i * 27 + (i % 3) * 5, 318 + Math.sin(f.swell * 2 + i) * 1.5, 9, 20);
    }
  },
};

const line: View = {
  label: 'FLIGHT LINE',
  backdrop(c) {
    c.fillStyle = gradient(c, 0, 360, ['#3f93bb', '#a5d3dd', '#e7e6cf']);
    c.fillRect(0, 0, 640, 360);
  },
  live(c, f) {
    c.fillStyle = 'rgba(255,255,255,0.42)';
    for (let i = 0; i < 4; i += 1) {
      const x = ((((i * 230 - f.kite.x * 9 - f.swell * 12) % 900) + 900) % 900) - 130;
      const y = 60 + i * 70 + f.kite.z * 2 - 50;
      c.beginPath();
      c.ellipse(x, y, 74, 19, 0, 0, Math.PI * 2);
      c.ellipse(x + 44, y + 9, 58, 16, 0, 0, Math.PI * 2);
      c.fill();
    }
    const x = 320 + Math.sin(f.swell * 1.9) * 46;
    const y = 165 + Math.cos(f.swell * 1.4) * 28;
    c.strokeStyle = 'rgba(20,30,35,0.7)';
    c.lineWidth = 2;
    c.beginPath();
    c.moveTo(x, y + 20);
    c.lineTo(300 - f.kite.x * 5, 372);
    c.stroke();
    kite(c, x, y, 92, f.roll, f.swell * 1.1);
  },
};

const mast: View = {
  label: 'MAST OVERHEAD',
  backdrop(c) {
    c.fillStyle = '#1f5c70';
    c.fillRect(0, 0, 640, 360);
    c.fillStyle = '#d6c196';
    c.fillRect(0, 300, 640, 60);
    c.fillStyle = '#5b4a3b';
    c.fillRect(296, 176, 48, 130);
    c.strokeStyle = 'rgba(232,239,233,0.28)';
    c.lineWidth = 1.5;
    for (const r of [60, 120, 180]) {
      c.beginPath();
      c.arc(320, 190, r, Math.PI, 0);
      c.stroke();
    }
    for (const a of [-0.8, -0.4, 0, 0.4, 0.8]) {
      c.beginPath();
      c.moveTo(320, 190);
      c.lineTo(320 + 190 * Math.sin(a), 190 - 190 * Math.cos(a));
      c.stroke();
    }
  },
  live(c, f) {
    const at = (p: Point): [number, number] => [320 + p.x * 4.6, 190 - p.y * 4.2];
    const [x, y] = at(f.kite);
    c.strokeStyle = 'rgba(226,240,240,0.24)';
    c.lineWidth = 2;
    for (let i = 0; i < 5; i += 1) {
      const wy = ((f.swell * 16 + i * 64) % 320) - 10;
      c.beginPath();
      c.moveTo(0, wy);
      c.bezierCurveTo(200, wy + 16, 420, wy - 16, 640, wy + 5);
      c.stroke();
    }
    c.strokeStyle = '#e8efe9';
    c.lineWidth = 1.5;
    c.beginPath();
    c.moveTo(320, 190);
    c.lineTo(x, y);
    c.stroke();
    c.fillStyle = 'rgba(0,0,0,0.3)';
    c.beginPath();
    c.ellipse(x + 12, y + 22, 15, 7, 0, 0, Math.PI * 2);
    c.fill();
    kite(c, x, y, 17, f.roll, f.swell);
    c.fillStyle = '#ff5a4f';
    c.beginPath();
    c.arc(320, 190, 6, 0, Math.PI * 2);
    c.fill();
  },
};

function person(c: Context, x: number, coat: string, skin: string, hair: string, nod: number, mouth: number): void {
  polygon(c, coat, [
    [x - 62, 292],
    [x - 40, 222],
    [x + 40, 222],
    [x + 62, 292],
  ]);
  c.fillStyle = skin;
  c.fillRect(x - 13, 200 + nod, 26, 30);
  c.beginPath();
  c.ellipse(x, 172 + nod, 34, 42, 0, 0, Math.PI * 2);
  c.fill();
  c.fillStyle = hair;
  c.beginPath();
  c.ellipse(x, 150 + nod, 37, 27, 0, Math.PI, 0);
  c.fill();
  c.fillStyle = '#22221f';
  c.fillRect(x - 17, 168 + nod, 7, 5);
  c.fillRect(x + 10, 168 + nod, 7, 5);
  c.fillStyle = '#7c2f2f';
  c.fillRect(x - 10, 193 + nod, 20, 2 + mouth * 9);
}

const desk: View = {
  label: 'DESK',
  backdrop(c) {
    c.fillStyle = gradient(c, 0, 300, ['#20343b', '#34525a']);
    c.fillRect(0, 0, 640, 360);
    c.fillStyle = gradient(c, 40, 190, ['#8cc4d6', '#e9e2c6']);
    c.fillRect(216, 34, 208, 150);
    c.strokeStyle = '#e2c48d';
    c.lineWidth = 5;
    c.strokeRect(216, 34, 208, 150);
  },
  live(c, f) {
    kite(c, 320 + f.kite.x * 2.1, 150 - f.kite.z * 2.2, 8, f.roll, f.swell);
    const talk = (k: number) => Math.max(0, Math.sin(f.swell * 7.1 + k) * Math.sin(f.swell * 1.3 + k * 2));
    person(c, 172, '#2f6b74', '#d9a37e', '#4b2e22', Math.sin(f.swell * 1.2) * 3, talk(0));
    person(c, 468, '#a3542f', '#8d5b3f', '#191614', Math.sin(f.swell * 1.05 + 2) * 3, talk(2.4));
    c.fillStyle = '#152226';
    c.fillRect(0, 284, 640, 76);
    c.fillStyle = '#e2c48d';
    c.fillRect(0, 284, 640, 4);
    c.fillStyle = '#e8efe9';
    c.font = '600 24px sans-serif';
    c.fillText('SKERRY POINT KITE TRIALS', 36, 330);
    c.font = '600 22px monospace';
    c.fillText(`HEAT ${f.heat}  ${f.wind.toFixed(1)} m/s`, 416, 330);
  },
};

/** The wind analyst in the weather hut, before a green backing to be keyed out. */
const hut: View = {
  label: 'WEATHER HUT',
  backdrop(c) {
    c.fillStyle = gradient(c, 0, 360, ['#24b45a', '#1fa04a', '#1b8f43']);
    c.fillRect(0, 0, 640, 360);
  },
  live(c, f) {
    const talk = Math.max(0, Math.sin(f.swell * 6.3 + 1) * Math.sin(f.swell * 1.1));
    c.save();
    c.translate(320 + Math.sin(f.swell * 0.6) * 5, 0);
    c.scale(1.25, 1.25);
    person(c, 0, '#6b4f8f', '#c98f6b', '#2a1c18', Math.sin(f.swell) * 2, talk);
    // An arm that shows where the wind comes from.
    c.strokeStyle = '#6b4f8f';
    c.lineWidth = 22;
    c.lineCap = 'round';
    c.beginPath();
    c.moveTo(46, 246);
    c.lineTo(96 + Math.sin(f.swell * 0.8) * 12, 196 - f.wind * 2);
    c.stroke();
    c.restore();
  },
};

const VIEWS: Record<SimulatedCamera, View> = { shore, line, mast, desk, hut };

/** The painter of one camera at the given picture size. */
export function createCameraPainter(camera: SimulatedCamera, size: Raster, rate: Rate): Painter {
  const view = VIEWS[camera];
  const still = new OffscreenCanvas(size.width, size.height);
  const back = still.getContext('2d', { alpha: false, willReadFrequently: true });
  const fit = (c: Context) => c.setTransform(size.width / STAGE.width, 0, 0, size.height / STAGE.height, 0, 0);
  if (back) {
    fit(back);
    view.backdrop(back);
  }
  return {
    paint(c, frame) {
      c.setTransform(1, 0, 0, 1, 0, 0);
      c.drawImage(still, 0, 0);
      fit(c);
      view.live(c, flightAt(frameToSeconds(frame, rate)));
      c.fillStyle = 'rgba(8,14,16,0.72)';
      c.fillRect(10, 10, 238, 24);
      c.fillStyle = '#f4f7f2';
      c.font = '14px monospace';
      c.fillText(`${formatTimecode(frame, rate)}  ${view.label}`, 17, 27, 224);
      drawStrip(c, camera, frame);
    },
    sound: createCameraSound(camera),
  };
}
