/** Commands that switch the picture. */
import { requirePicture } from './edit';
import { CommandError, defineCommand, NoArgs } from '../commands/command';
import { Flag, Num, Ref, Whole } from '../schema/fields';
import { type Desk } from '../desk/air';
import { turnFade } from '../time/fade';
import { pictureByNumber } from '../desk/pictures';
import { takeWithProgramme } from '../screens/showing';
import { cut, moveBar, settle, take } from './mixer';

class PictureArg {
  @Ref('picture', 'source, framing, layout, preset or seat') picture!: string;
}
class NumberArg {
  @Whole(1, 99, 'pinned number') number!: number;
}
class CutArgs {
  @Ref('picture', 'source, framing, layout, preset or seat to cut to; without it, Next', { optional: true }) picture?: string;
}
class BarArgs {
  @Num(0, 1, 'place of the bar: 0 the old picture, 1 the new') position!: number;
}
class BlackArgs {
  @Flag('true to black, false back; without it, the other way', { optional: true }) on?: boolean;
}
class BlackLengthArgs {
  @Whole(1, 1500, 'length in frames') frames!: number;
}

function byNumber(desk: Desk, number: number) {
  const picture = pictureByNumber(desk.show, number);
  if (!picture) throw new CommandError('unknown-number', `Nothing has the number ${number}.`, 'number');
  return picture;
}

export const pictureCommands = [
  defineCommand({
    type: 'picture.setNext',
    title: 'Set Next',
    says: 'Put {picture} into Next',
    about: 'Puts a source, framing, layout, preset or seat into Next. What is on air stays, also in the middle of a transition.',
    args: PictureArg,
    run: (desk, { picture }) => {
      desk.air.nextId = requirePicture(desk, picture).id;
    },
  }),
  defineCommand({
    type: 'picture.setNextByNumber',
    title: 'Set Next by number',
    says: 'Put number {number} into Next',
    about: 'Puts the source, framing or layout that wears this number into Next.',
    args: NumberArg,
    run: (desk, { number }) => {
      desk.air.nextId = byNumber(desk, number).id;
    },
  }),
  defineCommand({
    type: 'picture.cut',
    title: 'Cut',
    says: 'Cut to {picture}',
    about:
      'Cuts to Next, or straight to a given picture. In the middle of a transition, cuts to its end. Armed lanes, and surfaces that go with the programme, change with a cut to Next.',
    args: CutArgs,
    run: (desk, { picture }, { frame }) => {
      cut(desk, frame, picture === undefined ? undefined : requirePicture(desk, picture).id);
      if (picture === undefined) takeWithProgramme(desk, frame, true);
    },
  }),
  defineCommand({
    type: 'picture.cutByNumber',
    title: 'Cut by number',
    says: 'Cut to number {number}',
    about: 'Cuts straight to the source, framing or layout that wears this number.',
    args: NumberArg,
    run: (desk, { number }, { frame }) => {
      cut(desk, frame, byNumber(desk, number).id);
    },
  }),
  defineCommand({
    type: 'picture.take',
    title: 'Take',
    says: 'Take Next to air',
    about:
      'Runs the armed transition to Next, with the armed lanes and the surfaces that go with the programme. While the bar holds a transition, finishes it from there. Refused while one runs by itself.',
    args: NoArgs,
    run: (desk, _, { frame }) => {
      take(desk, frame);
      takeWithProgramme(desk, frame, false);
    },
  }),
  defineCommand({
    type: 'picture.moveBar',
    title: 'Move the bar',
    about: 'Does the armed transition by hand. Coming back to 0 undoes it; reaching 1 ends it.',
    args: BarArgs,
    run: (desk, { position }, { frame }) => {
      moveBar(desk, frame, position);
    },
  }),
  defineCommand({
    type: 'picture.fadeToBlack',
    title: 'Fade to black',
    says: 'Fade to black, or back',
    about: 'Fades picture and sound of the programme to black, or back. Turns round at once when pressed on the way.',
    args: BlackArgs,
    hold: ({ air }, { on }) => on ?? air.black.to === 0,
    run: (desk, { on }, { frame }) => {
      const { air, show } = desk;
      settle(air, frame);
      const to = (on ?? air.black.to === 0) ? 1 : 0;
      if (air.black.to !== to) air.black = turnFade(air.black, to, frame, show.blackFrames);
    },
  }),
  defineCommand({
    type: 'picture.setBlackLength',
    title: 'Set the length of fade to black',
    about: 'How long the fade to black takes.',
    args: BlackLengthArgs,
    run: (desk, { frames }) => {
      desk.show.blackFrames = frames;
    },
  }),
];
