/** What a simulated audience says: names, comments and how it votes. Invented, always the same for a seed. */

const NAMES = [
  'Jory, Pebble Street',
  'Marit',
  'نور من الميناء',
  'Old Tam',
  'Wren & Finn',
  'דנה',
  'Class 4b, Lantern Bay',
  'आशा',
  'Sailor_77',
  'Edda from the hill',
  'Kit',
  'Bo Sandmark',
] as const;

const COMMENTS = [
  'How do they keep four lines from crossing in a gust?',
  'Best figure of the day! The whole pier held its breath.',
  'Who is judging the next heat?',
  'ما هي أعلى سرعة للريح اليوم؟',
  'Can you show the mast camera once more, please?',
  'We can see the red kite from our kitchen window',
  'מי שופט את המקצה הבא?',
  'Greetings from the lighthouse – it is blowing hard out here',
  'अगला दौर कब है?',
  'My grandfather built a kite like that in one night.',
  'That landing was a drudge. Sorry, but it was.',
  'Is there a flight after dark tonight?',
  '😀🪁🪁 go Tolv!',
  'Please say hello to Ilse',
  '<b>Is this bold?</b>',
] as const;

export interface FeedPerson {
  name: string;
  /** A comment after so many milliseconds, again and again. */
  everyMs: number;
  comment: (n: number) => string;
  /** Which of some choices they vote for. */
  choice: (choices: number) => number;
}

/** The person with this number; numbers past the names are named by count. */
export function feedPerson(number: number): FeedPerson {
  const name = NAMES[number % NAMES.length] ?? 'Kit';
  const round = Math.floor(number / NAMES.length);
  return {
    name: round === 0 ? name : `${name} ${round + 1}`.slice(0, 40),
    everyMs: 12_000 + ((number * 2617) % 14_000),
    comment: (n) => COMMENTS[(number * 7 + n * 4) % COMMENTS.length] ?? '',
    // Not evenly: early choices are liked more.
    choice: (choices) => Math.floor((((number * 37) % 100) / 100) ** 1.6 * choices),
  };
}
