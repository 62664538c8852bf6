/** The gallery: graphics that ship, each drawn of the elements that everybody has, for the demo show. */
import { type Graphic } from '../document';
import { commentCard, pollBars } from './audience';
import { heatClock, results, schedule, score } from './contest';
import { bug, comingUp, opening, sponsors } from './frame';
import { newsLine, standingsTable } from './lines';
import { nameCard, question, quote, twoNames } from './names';

export interface GalleryPiece {
  id: string;
  about: string;
  make: () => Graphic;
}

export const GALLERY: readonly GalleryPiece[] = [
  { id: 'name-card', about: 'a name and who that is', make: nameCard },
  { id: 'two-names', about: 'two people side by side', make: twoNames },
  { id: 'score', about: 'heat and points, counted by key', make: score },
  { id: 'heat-clock', about: 'a clock with a look for its last seconds', make: heatClock },
  { id: 'schedule', about: 'up to six times; empty rows close up', make: schedule },
  { id: 'results', about: 'a full page with numbers that roll', make: results },
  { id: 'skerry-bug', about: 'a small sign in the corner', make: bug },
  { id: 'quote', about: 'what was said, word by word', make: quote },
  { id: 'question', about: 'a question from outside, in any script', make: question },
  { id: 'comment-card', about: 'what somebody of the audience writes, with their picture', make: commentCard },
  { id: 'poll-bars', about: 'a poll whose bars grow, from the sheet Poll', make: pollBars },
  { id: 'coming-up', about: 'a live picture of what comes', make: comingUp },
  { id: 'sponsors', about: 'three firms along the lower edge', make: sponsors },
  { id: 'news-line', about: 'items that pass along the lower edge', make: newsLine },
  { id: 'standings-table', about: 'rows of a sheet, sorted; they change places', make: standingsTable },
  { id: 'opening', about: 'an opening; also a stinger', make: opening },
];
