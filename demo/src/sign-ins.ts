/** The invented people of the demo, all with one password. */
export const PASSWORD = 'hollow-lane-bees';
export const ADMINISTRATOR = { name: 'Olive Hallam', email: 'olive@hollow-lane.example' };
export const INSTRUCTOR = { name: 'Ines Okafor', email: 'ines@hollow-lane.example' };
export const STUDENTS = [
  { name: 'Tamsin Arkwright', email: 'tamsin@hollow-lane.example' },
  { name: 'Corin Haldane', email: 'corin@hollow-lane.example' },
  { name: 'Mirela Voss', email: 'mirela@hollow-lane.example' },
] as const;

/** What the demo prints for the person who started it. */
export function signIns(): string {
  const line = (role: string, { name, email }: { name: string; email: string }) =>
    `  ${role.padEnd(13)}  ${email.padEnd(30)}  ${PASSWORD}  (${name})\n`;
  return [
    line('administrator', ADMINISTRATOR),
    line('instructor', INSTRUCTOR),
    ...STUDENTS.map((student) => line('student', student)),
  ].join('');
}
