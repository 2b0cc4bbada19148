/** The guides under `/help`, which are the files of the same names in `docs/`. */
export const GUIDES = [
  {
    name: 'student',
    title: 'Guide for students',
    about: 'hand in, read receipts, send files from a program',
  },
  { name: 'instructor', title: 'Guide for instructors', about: 'from a table to marks that are returned' },
  { name: 'administrator', title: 'Guide for administrators', about: 'run the server, people, backups' },
  { name: 'questions', title: 'Questions', about: 'every kind of question, its checks and its marks' },
  { name: 'plans', title: 'Splits and folds', about: 'every way to split rows and to make folds' },
  { name: 'steps', title: 'Steps', about: 'every step of a preparation' },
  { name: 'models', title: 'Models', about: 'every family of models, and how it is fitted' },
  { name: 'verdicts', title: 'Verdicts', about: 'the tests behind “overfitted”, “leaks” and “differs”' },
  { name: 'formats', title: 'Formats', about: 'the files that are read and written' },
  { name: 'cli', title: 'Command line', about: 'the same checks without a server' },
  { name: 'security', title: 'Security', about: 'how held-out answers stay secret' },
] as const;

const FILES = import.meta.glob<string>('../../../docs/*.md', { query: '?raw', import: 'default' });

/** The text of a guide; null for one that there is not. */
export async function guideText(name: string): Promise<string | null> {
  if (!GUIDES.some((guide) => guide.name === name)) return null;
  return (await FILES[`../../../docs/${name}.md`]?.()) ?? null;
}

/** Where a link of a guide leads within the program; null for a file that is not among the guides. */
export function guideLink(href: string, here: string): string | null {
  if (href.startsWith('#')) return `/help/${here}${href}`;
  if (href.startsWith('api/')) return '/help/api';
  const [, name, place = ''] = /^([a-z]+)\.md(#.*)?$/.exec(href) ?? [];
  return name !== undefined && GUIDES.some((guide) => guide.name === name) ? `/help/${name}${place}` : null;
}
