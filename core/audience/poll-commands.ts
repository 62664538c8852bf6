/** Commands for polls: what is asked, when the audience may answer, and their votes. */
import { CommandError, defineCommand, NoArgs } from '../commands/command';
import { remove } from '../desk/remove';
import { Flag, Ref, Text, TextList, Wholes } from '../schema/fields';
import { createPoll, MOST_CHOICES, MOST_POLLS, MOST_VOTES, type Poll } from './document';
import { pollOf } from './edit';

class AddArgs {
  @Text(160, 'question', { min: 1 }) question!: string;
  @TextList(MOST_CHOICES, 80, 'choices, two at least') choices!: string[];
}
class PollArg {
  @Ref('poll', 'poll') poll!: string;
}
class EditArgs extends PollArg {
  @Text(160, 'question', { min: 1, optional: true }) question?: string;
  @TextList(MOST_CHOICES, 80, 'choices, two at least', { optional: true }) choices?: string[];
}
class ResultsArgs {
  @Flag('the page of the audience shows how it stands') on!: boolean;
}
class CountedArgs extends PollArg {
  @Wholes(MOST_CHOICES, 0, MOST_VOTES, 'votes for each choice') votes!: number[];
}

/** Choices as they are kept. @throws CommandError unless there are two that differ */
function choicesFrom(raw: readonly string[]): string[] {
  const choices = raw.map((c) => c.trim()).filter((c) => c !== '');
  const names = new Set(choices.map((c) => c.toLowerCase()));
  if (choices.length < 2) throw new CommandError('too-few', 'A poll has two choices at least.', 'choices');
  if (names.size < choices.length) throw new CommandError('bad-argument', 'Two choices say the same.', 'choices');
  return choices;
}

const votesOf = ({ choices }: Poll): number => choices.reduce((sum, c) => sum + c.votes, 0);

export const pollCommands = [
  defineCommand({
    type: 'poll.add',
    title: 'Add a poll',
    about: 'A question with choices. The audience sees it when it is opened. Returns its `id`.',
    args: AddArgs,
    run: ({ show: { audience } }, { question, choices }, { newId }) => {
      if (audience.polls.length >= MOST_POLLS) throw new CommandError('too-many', `A show has at most ${MOST_POLLS} polls.`);
      const poll = createPoll(newId(), question, choicesFrom(choices));
      audience.polls.push(poll);
      return { id: poll.id };
    },
  }),
  defineCommand({
    type: 'poll.edit',
    title: 'Edit a poll',
    about: 'Its question and choices. Once there are votes the choices stay, and so does the question: take the votes away first.',
    args: EditArgs,
    mergeKey: ({ poll, ...change }) => `poll:${poll}:${Object.keys(change).join()}`,
    run: (desk, { poll: id, question, choices }) => {
      const poll = pollOf(desk, id);
      if (votesOf(poll) > 0 || desk.air.audience.poll?.id === id)
        throw new CommandError('poll-voted', `“${poll.question}” was asked already. Take its votes away, or make another poll.`, 'poll');
      if (question !== undefined) poll.question = question;
      if (choices) poll.choices = choicesFrom(choices).map((text) => ({ text, votes: 0 }));
    },
  }),
  defineCommand({
    type: 'poll.remove',
    title: 'Remove a poll',
    about: 'With its votes. Refused while the audience sees it.',
    args: PollArg,
    run: (desk, { poll: id }) => {
      const poll = pollOf(desk, id);
      if (desk.air.audience.poll?.id === id)
        throw new CommandError('in-use', `“${poll.question}” is on the page of the audience. Take it away there first.`, 'poll');
      remove(desk, 'poll', id);
    },
  }),
  defineCommand({
    type: 'poll.open',
    title: 'Open a poll',
    says: 'Open the poll {poll}',
    about: 'The audience sees it on their page and may vote, once from each browser; until it is closed they may change their mind.',
    args: PollArg,
    run: (desk, { poll }) => {
      pollOf(desk, poll);
      desk.air.audience.poll = { id: poll, open: true, results: false };
    },
  }),
  defineCommand({
    type: 'poll.close',
    title: 'Close the poll',
    says: 'Close the poll',
    about: 'No more votes are taken. It stays on the page of the audience until it is taken away.',
    args: NoArgs,
    run: ({ air: { audience } }) => {
      if (!audience.poll?.open) throw new CommandError('no-poll', 'No poll is open.');
      audience.poll.open = false;
    },
  }),
  defineCommand({
    type: 'poll.results',
    title: 'Show the audience how the poll stands',
    about: 'On their page, by shares; without, they see just what was asked.',
    args: ResultsArgs,
    run: ({ air: { audience } }, { on }) => {
      if (!audience.poll) throw new CommandError('no-poll', 'No poll is on the page of the audience.');
      audience.poll.results = on;
    },
  }),
  defineCommand({
    type: 'poll.away',
    title: 'Take the poll away from the page of the audience',
    says: 'Take the poll away',
    about: 'It is closed, and keeps its votes.',
    args: NoArgs,
    run: ({ air: { audience } }) => void (audience.poll = null),
  }),
  defineCommand({
    type: 'poll.reset',
    title: 'Take the votes of a poll away',
    about: 'Everybody may vote anew. Refused while it is open.',
    args: PollArg,
    hold: () => true,
    run: (desk, { poll: id }) => {
      const poll = pollOf(desk, id);
      if (desk.air.audience.poll?.id === id && desk.air.audience.poll.open)
        throw new CommandError('in-use', `“${poll.question}” is open. Close it first.`, 'poll');
      for (const choice of poll.choices) choice.votes = 0;
      poll.round += 1;
    },
  }),
  defineCommand({
    type: 'poll.counted',
    title: 'Count votes',
    about: 'Sent by the engine when votes have come: how many there are now for each choice.',
    args: CountedArgs,
    fromEngine: true,
    outside: true,
    run: (desk, { poll: id, votes }) => {
      const poll = pollOf(desk, id);
      poll.choices.forEach((choice, i) => {
        if (choice.votes !== votes[i]) choice.votes = votes[i] ?? 0;
      });
    },
  }),
];
