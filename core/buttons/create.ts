/** New pages and buttons. */
import { type ButtonAct, type ButtonPage, type PageButton } from './document';

export const createPage = (id: string, name: string, change: Partial<ButtonPage> = {}): ButtonPage => ({
  id,
  name,
  columns: 5,
  rows: 3,
  buttons: [],
  ...change,
});

export const createButton = (id: string, place: number, act: ButtonAct, change: Partial<PageButton> = {}): PageButton => ({
  id,
  place,
  name: '',
  colour: '#2b4a52',
  pictureId: null,
  act,
  lit: null,
  ...change,
});
