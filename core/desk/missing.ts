/** References to what a show does not have. */
import { CommandError } from '../commands/command';
import { type Problem } from '../schema/check';
import { type Constructor } from '../schema/fields';
import { type EntityKind, kindsOf, OUTSIDE, REF_TARGETS } from '../schema/kinds';
import { type Desk } from './air';
import { ENTITIES } from './entities';
import { pathOf, walkRefs } from './refs';
import { Show } from './show';

/** Every reference to something that is not in the show: of the show itself, or of an object of a described class. */
export function refProblems(show: Show, of: Constructor = Show, root: object = show): Problem[] {
  const problems: Problem[] = [];
  const known = new Map<EntityKind, ReadonlySet<string>>();
  const there = (kind: EntityKind, id: string) => {
    let ids = known.get(kind);
    if (!ids) known.set(kind, (ids = new Set(ENTITIES[kind].list(show).map((e) => e.id))));
    return ids.has(id);
  };
  walkRefs(of, root, (found) => {
    const kinds = kindsOf(found.to);
    if (kinds.some((kind) => OUTSIDE.includes(kind) || there(kind, found.id))) return;
    problems.push({ path: pathOf(found), message: `no ${REF_TARGETS[found.to].words} has the id "${found.id}"` });
  });
  return problems;
}

/**
 * @throws CommandError when something of a described class names what the show does not have. `field` is the argument that it stands in;
 * without one
 * it is the arguments themselves.
 */
export function checkThere({ show }: Pick<Desk, 'show'>, of: Constructor, root: object, field = ''): void {
  const [problem] = refProblems(show, of, root);
  if (problem)
    throw new CommandError('nothing-there', `In this show ${problem.message}.`, field === '' ? problem.path : `${field}.${problem.path}`);
}
