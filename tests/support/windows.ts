/** What windows of outputs show, pixel by pixel. */
import { type Page } from 'puppeteer-core';

/** Pixels of a window's canvas, and its size. */
export const look = (of: Page, ...points: [number, number][]) =>
  of.evaluate((list) => {
    const canvas = document.querySelector('canvas')!;
    const context = new OffscreenCanvas(canvas.width, canvas.height).getContext('2d', { willReadFrequently: true })!;
    context.drawImage(canvas, 0, 0);
    return { size: [canvas.width, canvas.height], pixels: list.map(([x, y]) => [...context.getImageData(x, y, 1, 1).data].slice(0, 3)) };
  }, points);

/** True when no colour of a pixel is off by more than `by` of 255. */
export const near = (pixel: number[] | undefined, colour: readonly number[], by = 11): boolean =>
  colour.every((v, i) => Math.abs((pixel?.[i] ?? -99) - v) <= by);
