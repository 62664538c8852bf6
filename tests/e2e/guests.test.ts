/** Guests in the real interface: real connections between browsers, the green room, what is seen and heard in the show and what comes back, seats, gathered views, lost lines. */
import { type Page } from 'puppeteer-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type {} from '#interface/guests/join-page';
import { type App, startApp, startBrowser, type TestBrowser } from '../support/browser';
import { heldOf } from '../support/held';
import { must, openSmall, passes, pick, said, send, until } from '../support/desk';
import { createWhen } from '#core/automation/create';
import { finishRecording, records, startRecording } from '../support/recording';
import { programmeAt, programmeShows } from '../support/programme';
import { near } from '../support/windows';

let app: App;
let browser: TestBrowser;
let other: TestBrowser;
let page: Page;
let id = '';
const people: Record<'vik' | 'liv', { guest: string; source: string; screen: string }> = {
  vik: { guest: '', source: '', screen: '' },
  liv: { guest: '', source: '', screen: '' },
};
const pages: Partial<Record<'vik' | 'liv', Page>> = {};

/** Voices and colours of the simulated guests 0 and 1. */
const VOICE = { vik: 330, liv: 470 } as const;
const COLOUR = { vik: [0x33, 0x56, 0x6b], liv: [0x6b, 0x4a, 0x33] } as const;

/** Of both, in the middle: a card has none. */
const FACE = [0xd9, 0xb9, 0x99] as const;

beforeAll(async () => {
  app = await startApp();
  [browser, other] = await Promise.all([startBrowser(), startBrowser()]);
  ({ page } = browser);
  // Nothing is heard but the guests.
  await openSmall(page, app, ['harbour'], true);
  id = await page.evaluate(() => window.bivocaHost?.showId ?? '');
  await page.keyboard.press('F8');
  await page.waitForSelector('[data-region="people"]');
});
afterAll(async () => {
  await Promise.all([browser.close(), other.close()]);
  await app.close();
});

const linkOf = (guest: string) => page.evaluate(async (who) => (await window.bivocaHost!.ways.make('guest', who, null)).secret, guest);
const now = (guest: string) => page.evaluate((who) => window.bivocaHost!.state.desk.air.guests.now[who] ?? null, guest);
const shows = (colour: readonly number[], what: string, x = 0.12, y = 0.4) => programmeShows(page, colour, what, x, y);

/** How loud each of the voices is in a stream, dB: the host's bus, or what comes back to a guest. */
const voices = (on: Page, bus: string | null) =>
  on.evaluate(
    async (busId, tones) => {
      const own = busId === null ? null : window.bivocaHost!.sound.streamOf(busId);
      const stream = own ? own.stream : window.bivocaVisit!.store.getState().back;
      if (!stream || stream.getAudioTracks().length === 0) return tones.map(() => -200);
      const context = new AudioContext();
      await context.resume();
      const analyser = new AnalyserNode(context, { fftSize: 16384, smoothingTimeConstant: 0 });
      const source = context.createMediaStreamSource(stream);
      source.connect(analyser);
      await new Promise((resolve) => setTimeout(resolve, 500));
      const bins = new Float32Array(analyser.frequencyBinCount);
      analyser.getFloatFrequencyData(bins);
      await context.close();
      own?.end();
      const at = (hz: number) => {
        const middle = Math.round((hz * analyser.fftSize) / context.sampleRate);
        return Math.max(-200, ...bins.slice(middle - 3, middle + 4));
      };
      return tones.map((hz) => Math.round(at(hz)));
    },
    bus,
    [VOICE.vik, VOICE.liv],
  );
/** Waits until a voice that is wanted is heard, and one that is not is lower by far: a connection bends time a little, which smears a tone. */
async function hears(on: Page, bus: string | null, wanted: readonly [vik: boolean, liv: boolean], what: string): Promise<void> {
  let levels: number[] = [];
  const isSo = async () => {
    levels = await voices(on, bus);
    const loud = Math.max(...levels.filter((_, i) => wanted[i]), -60);
    return levels.every((db, i) => (wanted[i] ? db > -60 : db < loud - 15));
  };
  await until(isSo, what, 10_000).catch((error: Error) => {
    throw new Error(`${error.message} Heard last: ${levels.join(', ')} dB.`);
  });
}

async function join(name: 'vik' | 'liv'): Promise<Page> {
  const visitor = await other.browser.newPage();
  const secret = await linkOf(people[name].guest);
  await visitor.goto(`${app.url}/join/${id}?simulated=${name === 'vik' ? 0 : 1}&name=${name}#guest=${secret}`);
  pages[name] = visitor;
  return visitor;
}

it('join by a link, wait unseen and unheard, and are in the show once they are admitted', async () => {
  for (const name of ['vik', 'liv'] as const) {
    const done = await send(page, 'guest.add', { name });
    if (!done.ok) throw new Error(done.error.message);
    people[name] = { guest: String(done.result.id), source: String(done.result.source), screen: String(done.result.screen) };
    await send(page, 'sound.follow', { channel: people[name].source, on: false });
  }
  for (const name of ['vik', 'liv'] as const) {
    await join(name);
    await until(async () => (await now(people[name].guest))?.state === 'waiting', `${name} in the green room`, 60_000);
    await until(
      () => page.evaluate((source) => window.bivocaHost!.state.health[source]?.state === 'live', people[name].source),
      `the picture of ${name}`,
      60_000,
    );
  }
  expect((await now(people.vik.guest))?.agreedAt).toBeGreaterThan(1e12);
  await said(page, '2 wait');
  // On air their place shows a card, and nobody hears them.
  await send(page, 'picture.cut', { picture: people.vik.source });
  await until(() => pick(page, (s) => s.desk.air.onAirId !== 'harbour'), 'the cut');
  await hears(page, 'programme', [false, false], 'silence of those who wait');
  expect(near(await programmeAt(page, 0.5, 0.35), [...FACE], 30)).toBe(false);
  const admit = await page.waitForSelector(`[data-guest="${people.vik.guest}"] ::-p-xpath(.//button[normalize-space(.)="Admit"])`);
  await admit!.click();
  await shows(COLOUR.vik, 'the guest on air');
  await hears(page, 'programme', [true, false], 'the voice of the admitted one alone');
  await until(() => pages.vik!.evaluate(() => window.bivocaVisit!.store.getState().standing?.sign === 'air'), 'the sign on their page');
  await said(pages.vik!, 'YOU ARE ON AIR');
  await send(page, 'guest.admit', { guest: people.liv.guest });
  await hears(page, 'programme', [true, true], 'both voices');
});

it('hear everybody but themself, and see the show', async () => {
  const busOf = (guest: string) =>
    page.evaluate((who) => {
      const { show } = window.bivocaHost!.state.desk;
      const listener = show.guests.list.find((g) => g.id === who)?.listenerId;
      return show.sound.listeners.find((l) => l.id === listener)!.busId;
    }, guest);
  await hears(page, await busOf(people.vik.guest), [false, true], 'the mix of the first');
  await hears(page, await busOf(people.liv.guest), [true, false], 'the mix of the second');
  await hears(pages.vik!, null, [false, true], 'what comes to the first');
  await hears(pages.liv!, null, [true, false], 'what comes to the second');
  await until(
    () => pages.liv!.evaluate(() => (document.querySelector<HTMLVideoElement>('video[aria-label="The show"]')?.videoWidth ?? 0) > 0),
    'the picture that comes back',
  );
});

it('sit in seats: a swap on air changes who is seen at once', async () => {
  const [one, two] = await pick(page, (s) => s.desk.show.seats.slice(0, 2).map((seat) => seat.id));
  await send(page, 'seat.fill', { seat: one, occupant: people.vik.source });
  await send(page, 'seat.fill', { seat: two, occupant: people.liv.source });
  await send(page, 'picture.cut', { picture: one });
  await shows(COLOUR.vik, 'who sits there');
  await send(page, 'cast.store', { name: 'Before' });
  await send(page, 'seat.swap', { a: one, b: two });
  await shows(COLOUR.liv, 'who sits there after the swap');
  const cast = await pick(page, (s) => s.desk.show.guests.casts[0]!.id);
  await send(page, 'cast.recall', { cast });
  await shows(COLOUR.vik, 'who sat there before');
});

it('are gathered: everyone beside each other; a shared screen takes the picture and gives it back', async () => {
  const [everyone, , shared] = await pick(page, (s) => s.desk.show.guests.gatherings.map((g) => g.id));
  await send(page, 'picture.cut', { picture: everyone });
  await shows(COLOUR.vik, 'the first, at the left', 0.05, 0.4);
  await shows(COLOUR.liv, 'the second, at the right', 0.55, 0.4);
  // Its settings have controls in the room.
  await page.select('select[aria-label="Order of Everyone"]', 'seat');
  await (await page.waitForSelector(`[data-gathering="${everyone}"] input[type="checkbox"]`))!.click();
  await until(
    () => pick(page, (s) => s.desk.show.guests.gatherings[0]!.order === 'seat' && !s.desk.show.guests.gatherings[0]!.names),
    'the settings',
  );
  await send(page, 'picture.cut', { picture: shared });
  await pages.liv!.bringToFront();
  const press = (words: string) =>
    pages.liv!.waitForSelector(`::-p-xpath(//button[normalize-space(.)="${words}"])`).then((b) => b!.click());
  await press('Share screen');
  await shows([0xe8, 0xef, 0xe9], 'the shared screen', 0.9, 0.1);
  expect((await now(people.liv.guest))?.shares).toBe(true);
  await press('End sharing');
  await until(async () => !near(await programmeAt(page, 0.9, 0.1), [0xe8, 0xef, 0xe9], 22), 'that it gives back', 10_000);
  expect((await now(people.liv.guest))?.shares).toBe(false);
});

it('are in a recording each by their own picture and voice', async () => {
  const everyone = await pick(page, (s) => s.desk.show.guests.gatherings[0]!.id);
  await page.bringToFront();
  await send(page, 'picture.cut', { picture: everyone });
  await shows(COLOUR.vik, 'the first, at the left', 0.05, 0.4);
  const recording = await startRecording(page);
  await records(page, 2000);
  const file = await finishRecording(page, recording);
  const found = await page.evaluate(
    async (base64, tones) => {
      const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
      const video = document.createElement('video');
      video.muted = true;
      video.src = URL.createObjectURL(new Blob([bytes], { type: 'video/mp4' }));
      await new Promise((resolve, reject) => Object.assign(video, { onloadeddata: resolve, onerror: reject }));
      const seeked = new Promise((resolve) => (video.onseeked = resolve));
      video.currentTime = 1;
      await seeked;
      const canvas = new OffscreenCanvas(video.videoWidth, video.videoHeight);
      const context = canvas.getContext('2d')!;
      context.drawImage(video, 0, 0);
      const colours = [0.05, 0.55].map((x) => [
        ...context.getImageData(Math.floor(x * canvas.width), Math.floor(0.4 * canvas.height), 1, 1).data.slice(0, 3),
      ]);
      const sound = await new OfflineAudioContext(1, 48_000, 48_000).decodeAudioData(bytes.slice().buffer);
      const samples = sound.getChannelData(0).slice(24_000, 72_000);
      // Goertzel, at each voice and at one that nobody has.
      const levels = tones.map((hz) => {
        let [re, im] = [0, 0];
        samples.forEach((v, i) => {
          const phase = (2 * Math.PI * hz * i) / sound.sampleRate;
          re += v * Math.cos(phase);
          im += v * Math.sin(phase);
        });
        return Math.round(20 * Math.log10(Math.hypot(re, im) / samples.length + 1e-9));
      });
      URL.revokeObjectURL(video.src);
      return { colours, levels };
    },
    file,
    [VOICE.vik, VOICE.liv, 1250],
  );
  expect(found.colours.map((c, i) => near(c, [COLOUR.vik, COLOUR.liv][i]!, 30))).toEqual([true, true]);
  const [vik = 0, liv = 0, nobody = 0] = found.levels;
  expect(Math.min(vik, liv), `levels ${found.levels.join()} dB`).toBeGreaterThan(nobody + 15);
});

it('who echo are told, may be heard alone by the crew, and let triggers act', async () => {
  await send(page, 'trigger.add', {
    when: createWhen('hand-goes-up', { guestId: people.vik.guest }),
    then: { kind: 'command', type: 'guest.note', args: { guest: people.vik.guest, text: 'We have seen your hand' } },
  });
  // What is so from the beginning is no event: it is looked at once before.
  await passes(page, 5);
  await pages.vik!.evaluate(() => window.bivocaVisit!.say({ hand: true }));
  await said(pages.vik!, 'We have seen your hand');
  await pages.vik!.evaluate(() => window.bivocaVisit!.say({ hand: false }));
  await send(page, 'trigger.armAll', { armed: false });
  const echoes = (guest: string) => page.evaluate((who) => window.bivocaHost!.guests.store.getState().figures[who]?.echo ?? null, guest);
  for (const { guest } of Object.values(people)) expect(await echoes(guest)).toBe(false);
  await pages.vik!.evaluate(() => window.postMessage({ simulatedGuest: 'silent' }, location.origin));
  await pages.vik!.evaluate(() => window.postMessage({ simulatedGuest: 'echo' }, location.origin));
  await until(() => echoes(people.vik.guest), 'the echo', 30_000);
  await said(page, 'what they hear comes back');
  for (const order of ['quiet', 'speak'])
    await pages.vik!.evaluate((simulatedGuest) => window.postMessage({ simulatedGuest }, location.origin), order);
  // In the green room nobody of the show hears them: the operator may.
  await send(page, 'guest.hold', { guest: people.vik.guest });
  await hears(page, 'programme', [false, true], 'the programme without the one who waits');
  expect(await page.evaluate((who) => window.bivocaHost!.guests.hear(who), people.vik.guest)).toBe(true);
  const ears = () =>
    page.evaluate(async (hz) => {
      const { ears: node, context } = window.bivocaHost!.sound as unknown as { ears: AudioNode; context: AudioContext };
      const analyser = new AnalyserNode(context, { fftSize: 16_384, smoothingTimeConstant: 0 });
      node.connect(analyser);
      await new Promise((resolve) => setTimeout(resolve, 500));
      const bins = new Float32Array(analyser.frequencyBinCount);
      analyser.getFloatFrequencyData(bins);
      node.disconnect(analyser);
      const middle = Math.round((hz * analyser.fftSize) / context.sampleRate);
      return Math.max(...bins.slice(middle - 3, middle + 4));
    }, VOICE.vik);
  await until(async () => (await ears()) > -60, 'their voice in the operator’s ears', 10_000);
  await page.evaluate(() => window.bivocaHost!.guests.hear(null));
  await until(async () => (await ears()) < -65, 'no more of it', 10_000);
  await send(page, 'guest.admit', { guest: people.vik.guest });
});

it('come back to where they were when their line breaks, and when their page is closed and opened anew', async () => {
  await send(page, 'picture.cut', { picture: people.liv.source });
  await shows(COLOUR.liv, 'the picture before');
  await pages.liv!.evaluate(() => window.bivocaVisit!.lose());
  await until(async () => (await now(people.liv.guest))?.lost === true, 'that the line is down');
  await until(async () => (await now(people.liv.guest))?.lost === false, 'the way back', 10_000);
  await shows(COLOUR.liv, 'the picture after');
  await hears(page, 'programme', [true, true], 'the voice after');
  await pages.liv!.close();
  await until(async () => (await now(people.liv.guest))?.lost === true, 'that the page has gone', 10_000);
  // Whoever is expected back has a card in their place, never black.
  await until(async () => !near(await programmeAt(page, 0.5, 0.35), [...FACE], 30), 'the card', 10_000);
  expect(Math.max(...(await programmeAt(page, 0.5, 0.5)))).toBeGreaterThan(25);
  await join('liv');
  await shows(COLOUR.liv, 'the picture of the page that was opened anew');
  expect((await now(people.liv.guest))?.state).toBe('admitted');
});

it('write, raise a hand, read what the crew writes; who has no good link stays outside', async () => {
  await pages.vik!.bringToFront();
  await pages.vik!.type('input[aria-label="Write to the crew"]', 'One <b>minute</b> please');
  await pages.vik!.keyboard.press('Enter');
  await said(page, 'One <b>minute</b> please');
  await (await pages.vik!.waitForSelector('::-p-xpath(//button[normalize-space(.)="Raise hand"])'))!.click();
  await until(async () => (await now(people.vik.guest))?.hand === true, 'the hand');
  await send(page, 'guest.note', { guest: people.vik.guest, text: 'You are next' });
  await said(pages.vik!, 'You are next');
  await must(page, 'order.add', { name: 'Talk with the hut' });
  await must(page, 'guest.order', { guest: people.vik.guest, on: true });
  await said(pages.vik!, 'Talk with the hut');
  // What their browser lowers by itself is said to both sides.
  await pages.vik!.evaluate(() => window.bivocaVisit!.say({ shortOf: 'line' }));
  await said(page, 'their line is short');
  const stranger = await other.browser.newPage();
  await stranger.goto(`${app.url}/join/${id}?simulated=3&name=x#guest=${await linkOf(people.vik.guest)}`);
  // A new link ends the one before: whoever came by it has to ask again.
  await said(pages.vik!, 'was withdrawn');
  await until(async () => (await now(people.vik.guest))?.lost === false, 'the one with the new link', 10_000);
  await page.evaluate((who) => window.bivocaHost!.ways.withdraw('guest', who), people.vik.guest);
  await said(stranger, 'was withdrawn');
  await send(page, 'guest.showOut', { guest: people.liv.guest });
  await said(pages.liv!, 'The crew has ended the connection');
  expect(await page.evaluate(() => (window.bivocaHost!.guests as unknown as { lines: Map<string, unknown> }).lines.size)).toBe(0);
  // Whoever has gone leaves no connection behind, however often they came: a browser gives some hundreds, and then no more.
  await until(async () => (await heldOf(page, 'RTCPeerConnection.prototype')) === 0 || null, 'that nothing holds their connections');
});

it('are told what to do when the browser gives no camera: it is not allowed, there is none, something else has it', async () => {
  for (const [name, words] of [
    ['NotAllowedError', 'allow both'],
    ['NotFoundError', 'Plug one in'],
    ['NotReadableError', 'Close other programs'],
  ] as const) {
    const visitor = await other.browser.newPage();
    await visitor.evaluateOnNewDocument((error) => {
      navigator.mediaDevices.getUserMedia = () => Promise.reject(new DOMException('no', error));
    }, name);
    await visitor.goto(`${app.url}/join/${id}#guest=${await linkOf(people.liv.guest)}`);
    await said(visitor, words);
    await visitor.close();
  }
});

it('come in four at once, and each is seen', async () => {
  await page.bringToFront();
  await (await page.waitForSelector('::-p-xpath(//button[normalize-space(.)="Simulate four"])'))!.click();
  await until(
    () =>
      page.evaluate(() => {
        const { list } = window.bivocaHost!.state.desk.show.guests;
        const { figures } = window.bivocaHost!.guests.store.getState();
        return list.filter((g) => (figures[g.id]?.height ?? 0) > 0).length === 4 || null;
      }),
    'four pictures',
    30_000,
  );
  expect(await pick(page, ({ desk }) => desk.show.guests.list.slice(-4).map((g) => g.title.split(',')[0]))).toEqual([
    'Wind analyst',
    'Judge',
    'Kite maker',
    'Last year’s winner',
  ]);
  const ids = await pick(page, ({ desk }) => desk.show.guests.list.slice(-4).map((g) => g.id));
  for (const guest of ids) await send(page, 'guest.showOut', { guest });
});

it('join with a real camera and microphone on a page of the size of a phone, once they have said their name and agreed', async () => {
  const phone = await other.browser.newPage();
  await phone.setViewport({ width: 390, height: 844, hasTouch: true, isMobile: true });
  await phone.goto(`${app.url}/join/${id}#guest=${await linkOf(people.vik.guest)}`);
  await phone.waitForSelector('video[aria-label="You"]');
  // The secret is out of the address.
  await until(() => phone.url() === `${app.url}/join/${id}`, 'the address without it');
  await until(() => phone.evaluate(() => (document.querySelector('video')?.videoWidth ?? 0) > 0), 'their own picture', 10_000);
  const join = (await phone.waitForSelector('button[type="submit"]'))!;
  await join.tap();
  expect(await phone.evaluate(() => window.bivocaVisit)).toBeUndefined();
  await phone.type('input[maxlength="60"]', 'Vik \u202eAasen');
  await phone.click('input[type="checkbox"]');
  await join.tap();
  await until(async () => (await now(people.vik.guest))?.said === 'Vik Aasen', 'the name that they have said', 60_000);
  await said(page, 'calls themself');
  expect([...browser.troubles, ...other.troubles]).toEqual([]);
  expect(await phone.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth)).toBe(true);
});
