/** Animations in the graphics worker: loaded once, kept within a bound, drawn frame by frame by the player (WebAssembly, shipped with the app). */
import { type DotLottie } from '@lottiefiles/dotlottie-web';
import wasm from '@lottiefiles/dotlottie-web/dotlottie-player.wasm?url';
import { type AnimationContent } from '#core/graphics/animation/document';
import { listIn, type Lottie, type Raw, readLottie, textIn } from '#core/graphics/animation/lottie';
import { filledLottie, type GivenRaw } from '#core/graphics/animation/parts';
import { type Moment } from '#core/graphics/paint';
import { toDataAddress } from './data-address';
import { fontFileFor } from './type';

let player: Promise<typeof DotLottie> | null = null;

/** The player, loaded when an animation is first wanted. With an address of its own it asks nobody else for its code. */
const playerClass = (): Promise<typeof DotLottie> =>
  (player ??= import('@lottiefiles/dotlottie-web').then((loaded) => {
    loaded.DotLottie.setWasmUrl(wasm);
    return loaded.DotLottie;
  }));

/** Players that are kept, and documents. */
const MOST_PLAYERS = 20;
const MOST_DOCUMENTS = 24;
/** A player that was asked for just now is about to be drawn with, milliseconds. */
const IN_USE_MS = 3000;
/** A player that has not loaded after so long will not, milliseconds: sooner than the worker would be taken for dead. */
const PATIENCE_MS = 4000;

type At = NonNullable<Moment['animation']>;

const keyOf = ({ assetId, given }: AnimationContent, { layers }: At, width: number, height: number): string =>
  JSON.stringify([assetId, given, layers, width, height]);

export class Animations {
  private readonly documents = new Map<string, Promise<Lottie | null>>();
  private readonly players = new Map<string, Promise<DotLottie | null>>();
  private readonly ready = new Map<string, DotLottie>();
  private readonly gone = new Set<string>();
  private readonly used = new Map<string, number>();
  private readonly fonts = new Map<string, Promise<unknown>>();

  constructor(private readonly open: (assetId: string) => Promise<Blob>) {}

  /** Loads what a frame is drawn with; resolves also when it cannot be had. */
  async load(content: AnimationContent, at: At, width: number, height: number): Promise<void> {
    const key = keyOf(content, at, width, height);
    let loading = this.players.get(key);
    if (!loading) {
      loading = this.make(content, at, width, height).then(
        (player) => {
          if (player) this.ready.set(key, player);
          return player;
        },
        () => null,
      );
      this.players.set(key, loading);
    } else {
      // The ones used last stay.
      this.players.delete(key);
      this.players.set(key, loading);
    }
    this.used.set(key, performance.now());
    await loading;
    for (const [old] of this.players) {
      if (this.players.size <= MOST_PLAYERS || performance.now() - (this.used.get(old) ?? 0) < IN_USE_MS) break;
      this.used.delete(old);
      this.players.delete(old);
      this.ready.get(old)?.destroy();
      this.ready.delete(old);
    }
  }

  /** The pixels of a loaded frame, not premultiplied; null when the animation is missing. */
  draw(content: AnimationContent, at: At, width: number, height: number): ImageData | null {
    const player = this.ready.get(keyOf(content, at, width, height));
    if (!player) return null;
    // The player counts from the first frame of the animation.
    player.setFrame(Math.max(0, at.frame - content.first));
    const { buffer } = player;
    if (!buffer || buffer.length !== width * height * 4) return null;
    return new ImageData(new Uint8ClampedArray(buffer), width, height);
  }

  /** The asset of an animation whose file cannot be had, or read. Asked after `load`. */
  missing({ assetId }: AnimationContent): string[] {
    return assetId !== null && this.gone.has(assetId) ? [assetId] : [];
  }

  private document(assetId: string): Promise<Lottie | null> {
    const known = this.documents.get(assetId);
    if (known) return known;
    const read = this.open(assetId)
      .then(async (blob) => readLottie(JSON.parse(await blob.text())))
      .catch(() => {
        this.gone.add(assetId);
        return null;
      });
    this.documents.set(assetId, read);
    const oldest = this.documents.size > MOST_DOCUMENTS ? this.documents.keys().next().value : undefined;
    if (oldest !== undefined) this.documents.delete(oldest);
    return read;
  }

  /** What is filled in, images as they are drawn: fitted into the place of the one that they stand for. */
  private async given(doc: Lottie, { given, parts }: AnimationContent): Promise<GivenRaw[]> {
    const all = await Promise.all(
      given.map(async ({ partId, value }): Promise<GivenRaw[]> => {
        const part = parts.find((p) => p.id === partId);
        if (!part) return [];
        if (part.kind !== 'image' || value === '') return [{ kind: part.kind, path: part.path, value }];
        const image = await this.open(value)
          .then((blob) => createImageBitmap(blob))
          .catch(() => null);
        if (!image) return [];
        const asset = listIn(doc, 'assets')[Number(part.path.split('/')[1])] ?? {};
        const [w, h] = [Number(asset.w) || image.width, Number(asset.h) || image.height].map((n) =>
          Math.min(4096, Math.max(1, Math.round(n))),
        ) as [number, number];
        const canvas = new OffscreenCanvas(w, h);
        const scale = Math.min(w / image.width, h / image.height);
        canvas
          .getContext('2d')
          ?.drawImage(image, (w - image.width * scale) / 2, (h - image.height * scale) / 2, image.width * scale, image.height * scale);
        image.close();
        return [{ kind: 'image', path: part.path, value: await toDataAddress(await canvas.convertToBlob({ type: 'image/png' })) }];
      }),
    );
    return all.flat();
  }

  /** Lets the player know the fonts of an animation, each once. */
  private async registered(doc: Lottie): Promise<unknown> {
    const Player = await playerClass();
    return Promise.all(
      listIn((doc.fonts ?? {}) as Raw, 'list').map((font) => {
        const name = textIn(font, 'fName');
        const family = textIn(font, 'fFamily') || name;
        let known = this.fonts.get(name);
        if (!known) {
          known = fontFileFor(family, textIn(font, 'fStyle'))
            .then((data) => (data ? Player.registerFont(name, data) : false))
            .catch(() => false);
          this.fonts.set(name, known);
        }
        return known;
      }),
    );
  }

  private async make(content: AnimationContent, { layers }: At, width: number, height: number): Promise<DotLottie | null> {
    const doc = content.assetId === null ? null : await this.document(content.assetId);
    if (!doc) return null;
    await this.registered(doc);
    const data = JSON.stringify(filledLottie(doc, await this.given(doc, content), layers));
    const Player = await playerClass();
    const player = new Player({
      canvas: { width, height },
      data,
      autoplay: false,
      loop: false,
      useFrameInterpolation: true,
      layout: { fit: 'fill', align: [0.5, 0.5] },
    });
    if (!player.isLoaded)
      await new Promise<void>((resolve) => {
        player.addEventListener('load', () => resolve());
        player.addEventListener('loadError', () => resolve());
        setTimeout(resolve, PATIENCE_MS);
      });
    if (player.isLoaded) return player;
    player.destroy();
    return null;
  }
}
