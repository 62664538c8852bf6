/** Artwork of the demo show, drawn: a sponsor's bug, a frame with two openings, a stinger, a picture for wipes. */

type Context = OffscreenCanvasRenderingContext2D;

/** The stage that all of it is laid out on. */
const WIDTH = 640;
const HEIGHT = 360;

/** `scale`: pixels for each unit of the stage. */
function drawn(scale: number, paint: (c: Context) => void): Promise<Blob> {
  const canvas = new OffscreenCanvas(Math.round(WIDTH * scale), Math.round(HEIGHT * scale));
  const c = canvas.getContext('2d');
  if (!c) throw new Error('This browser gives no 2D canvas.');
  c.scale(scale, scale);
  paint(c);
  return canvas.convertToBlob({ type: 'image/png' });
}

/** The bug of the invented chandler: transparent but for the corner. */
export const drawBug = (scale: number): Promise<Blob> =>
  drawn(scale, (c) => {
    c.fillStyle = 'rgba(13,21,23,0.72)';
    c.fillRect(470, 22, 138, 34);
    c.fillStyle = '#e2c48d';
    c.beginPath();
    c.moveTo(482, 50);
    c.lineTo(494, 28);
    c.lineTo(494, 50);
    c.fill();
    c.fillStyle = '#e8efe9';
    c.beginPath();
    c.moveTo(498, 50);
    c.lineTo(498, 32);
    c.lineTo(508, 50);
    c.fill();
    c.font = '600 13px sans-serif';
    c.fillText('Halyard & Sons', 514, 44, 88);
  });

/** Frame artwork: sail-cloth with two rounded openings. */
export const drawFrame = (scale: number): Promise<Blob> =>
  drawn(scale, (c) => {
    const cloth = c.createLinearGradient(0, 0, WIDTH, HEIGHT);
    cloth.addColorStop(0, '#123a4d');
    cloth.addColorStop(1, '#0d2430');
    c.fillStyle = cloth;
    c.fillRect(0, 0, WIDTH, HEIGHT);
    c.strokeStyle = 'rgba(226,196,141,0.16)';
    c.lineWidth = 2;
    for (let x = -HEIGHT; x < WIDTH; x += 34) {
      c.beginPath();
      c.moveTo(x, HEIGHT);
      c.lineTo(x + HEIGHT, 0);
      c.stroke();
    }
    const openings: [number, number, number, number][] = [
      [30, 62, 352, 214],
      [404, 98, 206, 178],
    ];
    for (const [x, y, w, h] of openings) {
      c.globalCompositeOperation = 'source-over';
      c.fillStyle = '#e2c48d';
      c.beginPath();
      c.roundRect(x - 4, y - 4, w + 8, h + 8, 18);
      c.fill();
      c.globalCompositeOperation = 'destination-out';
      c.beginPath();
      c.roundRect(x, y, w, h, 14);
      c.fill();
    }
    c.globalCompositeOperation = 'source-over';
    c.fillStyle = '#e8efe9';
    c.font = '600 22px sans-serif';
    c.fillText('SKERRY POINT KITE TRIALS', 30, 322);
  });

/** A stinger: a sail with slanted, transparent edges; it covers all in its middle two thirds. */
export const drawSail = (scale: number): Promise<Blob> =>
  drawn(scale, (c) => {
    const bands = ['#16405a', '#e2c48d', '#e8efe9', '#e2c48d', '#16405a'];
    bands.forEach((colour, i) => {
      const inset = i * 12;
      c.fillStyle = colour;
      c.beginPath();
      c.moveTo(56 + inset, 0);
      c.lineTo(WIDTH - inset, 0);
      c.lineTo(WIDTH - 56 - inset, HEIGHT);
      c.lineTo(inset, HEIGHT);
      c.fill();
    });
    c.fillStyle = '#16405a';
    c.fillRect(104, 0, 432, HEIGHT);
    c.fillStyle = '#e8efe9';
    c.font = '600 40px sans-serif';
    c.textAlign = 'center';
    c.fillText('KITE TRIALS', WIDTH / 2, HEIGHT / 2 + 14);
  });

/** A grey picture for wipes: a swell that breaks from the left. */
export const drawSwell = (): Promise<Blob> =>
  drawn(1, (c) => {
    const image = c.createImageData(WIDTH, HEIGHT);
    for (let y = 0; y < HEIGHT; y += 1) {
      for (let x = 0; x < WIDTH; x += 1) {
        const wave = 0.09 * Math.sin(y * 0.045) + 0.04 * Math.sin(y * 0.13 + x * 0.01);
        const grey = Math.min(255, Math.max(0, Math.round((x / WIDTH) * 0.82 * 255 + (wave + 0.09) * 255)));
        image.data.set([grey, grey, grey, 255], (y * WIDTH + x) * 4);
      }
    }
    c.putImageData(image, 0, 0);
  });
