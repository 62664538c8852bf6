/** The command reference as Markdown, made from the registry. */
import { ERROR_CODES } from '../commands/codes';
import { fieldsOf } from '../schema/fields';
import { COMMANDS } from './registry';

const escape = (text: string) => text.replace(/\|/g, '\\|');

/** The whole of docs/commands.md. */
export function commandReference(): string {
  const parts = [
    '# Commands',
    '',
    'Generated from the registry by `npm run docs`; the tests check that it is current. Send any of these as',
    '`POST /api/commands {"type": …, "args": {…}}`, or find it by name with Ctrl+K.',
    'Several at once are a list, `[{"type": …}, …]`: they are one step, all of them or none.',
    '',
  ];
  for (const spec of COMMANDS) {
    parts.push(`## ${spec.type}`, '', `**${spec.title}.** ${spec.about}`, '');
    const fields = fieldsOf(spec.args);
    if (fields.length === 0) continue;
    parts.push('| argument | is | meaning |', '|---|---|---|');
    for (const f of fields) {
      const extra = `${f.nullable ? ' or null' : ''}${f.optional ? ' (optional)' : ''}`;
      parts.push(`| \`${f.name}\` | ${escape(f.type)}${extra} | ${escape(f.about)} |`);
    }
    parts.push('');
  }
  parts.push(
    '# Codes of refusals',
    '',
    'A refusal says `{code, message, field?}`; of several commands, `index` says which one.',
    '',
    '| code | means |',
    '|---|---|',
  );
  for (const [code, about] of Object.entries(ERROR_CODES)) parts.push(`| \`${code}\` | ${escape(about)} |`);
  parts.push('');
  return parts.join('\n');
}
