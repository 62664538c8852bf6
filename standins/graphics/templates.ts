/** Three animations of our own, made for the demo show: a wind dial, a table of standings, what comes up. */
import { animation, composition, imageAsset, moving, opening, picture, plate, polygon, ring, words } from './lottie-parts';

const [DEEP, STRAW, MIST, CLOTH, SEA] = ['#0d1517', '#e2c48d', '#8fa5a3', '#e8efe9', '#5aa9c9'] as const;

/** Comes at `begin`, goes at `end`: from nothing to all, twelve frames each. */
const fades = (begin: number, end: number) => moving([begin, [0]], [begin + 12, [100]], [end, [100]], [end + 10, [0]]);

/** Wind: a dial that is drawn round, its needle, the number and the place. It has a marker where it waits. */
const wind = () => {
  const at: [number, number] = [1110, 170];
  return animation(
    'Wind',
    [
      words('Speed', [1110, 184], '14', 'Oswald', 54, CLOTH, { opacity: fades(14, 78) }, 2),
      words('Unit', [1110, 214], 'knots', 'Barlow', 22, MIST, { opacity: fades(18, 78) }, 2),
      words('Place', [1110, 290], 'Skerry Point', 'Barlow', 24, STRAW, { opacity: fades(22, 76) }, 2),
      polygon(
        'Needle',
        at,
        [
          [-7, -64],
          [0, -92],
          [7, -64],
        ],
        STRAW,
        { rotation: moving([8, [-140]], [34, [40]], [78, [40]], [96, [-140]]), opacity: fades(8, 82) },
      ),
      ring('Dial', at, 164, 6, SEA, moving([4, [0]], [30, [100]], [80, [100]], [98, [0]])),
      plate(
        'Ground',
        [1110, 186],
        [220, 250],
        DEEP,
        { opacity: moving([0, [0]], [10, [100]], [88, [100]], [99, [0]]), scale: moving([0, [80, 80]], [12, [100, 100]]) },
        86,
      ),
    ],
    40,
  );
};

/** Standings: five rows that come one after another. No marker: it waits where nothing moves. */
const standings = () => {
  const rows = ['Maren Tolv', 'Osk Ferrand', 'Ilse Quay', 'Bram Dory', 'Sunniva Marl'];
  return animation(
    'Standings',
    [
      ...rows.flatMap((name, i) => {
        const [y, begin, end] = [210 + i * 62, 8 + i * 4, 70 + i * 3];
        const opacity = moving([begin, [0]], [begin + 10, [100]], [end, [100]], [end + 8, [0]]);
        const across = (x: number) =>
          moving([begin, [x - 60, y + 10]], [begin + 14, [x, y + 10]], [end, [x, y + 10]], [end + 10, [x + 60, y + 10]]);
        return [
          words(`Points ${i + 1}`, [560, y + 10], String(94 - i * 7), 'Oswald', 30, STRAW, { opacity, position: across(560) }, 1),
          words(`Pilot ${i + 1}`, [150, y + 10], name, 'Barlow', 32, CLOTH, { opacity, position: across(150) }),
          words(`Place ${i + 1}`, [112, y + 10], String(i + 1), 'Oswald', 26, MIST, { opacity, position: across(112) }, 2),
          plate(
            `Row ${i + 1}`,
            [336, y],
            [520, 54],
            DEEP,
            { opacity, position: moving([begin, [296, y]], [begin + 12, [336, y]], [end, [336, y]], [end + 10, [376, y]]) },
            88,
          ),
        ];
      }),
      words('Heading', [84, 150], 'STANDINGS AFTER HEAT 3', 'Oswald', 34, DEEP, { opacity: fades(6, 80) }),
      plate('Tab', [336, 138], [520, 60], STRAW, {
        position: moving([0, [-300, 138]], [14, [336, 138]], [82, [336, 138]], [98, [-300, 138]]),
      }),
    ],
    null,
  );
};

const VIEW: [number, number] = [320, 180];
/** Slides up from behind the band, and down again. */
const rises = (x: number) => moving([10, [x, 660]], [28, [x, 454]], [74, [x, 454]], [90, [x, 660]]);

/** What comes up: a composition behind an opening mask, with two lines; a view of the place stands over it, an image or a live picture. */
const next = () =>
  animation(
    'Next up',
    [
      words('When', [640, 664], 'in five minutes', 'Barlow', 26, CLOTH, { opacity: fades(20, 76) }, 2),
      plate('Hour', [640, 657], [240, 36], DEEP, { opacity: fades(18, 76) }, 88),
      composition('Band', 'band', {}, [opening([640, 560, 0, 80], [240, 560, 800, 80], 4, 22, [80, 96])]),
      polygon(
        'Kite',
        [640, 548],
        [
          [0, -30],
          [18, 0],
          [0, 26],
          [-18, 0],
        ],
        SEA,
        { scale: moving([0, [0, 0]], [12, [100, 100]], [84, [100, 100]], [96, [0, 0]]), rotation: moving([0, [-90]], [14, [0]]) },
      ),
      picture('View', 'view', [860, 454], VIEW, { position: rises(860) }),
      plate('Frame', [860, 454], [VIEW[0] + 12, VIEW[1] + 12], STRAW, { position: rises(860) }),
    ],
    45,
    [
      imageAsset('view', VIEW),
      {
        id: 'band',
        nm: 'Band',
        layers: [
          { ind: 1, ...words('What', [640, 612], 'Heat 4: four lines, one gust', 'Bitter', 38, DEEP, {}, 2) },
          { ind: 2, ...plate('Cloth', [640, 600], [800, 80], CLOTH) },
        ],
      },
    ],
  );

export const TEMPLATES = [
  { id: 'wind-dial', fileName: 'wind.json', make: wind },
  { id: 'standings', fileName: 'standings.json', make: standings },
  { id: 'next-up', fileName: 'next-up.json', make: next },
] as const;
