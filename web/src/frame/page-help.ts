/** What a page is for, in a few lines, its keys, and where the guide says more. */
export interface PageHelp {
  readonly title: string;
  readonly lines: readonly string[];
  readonly keys?: readonly (readonly [keys: string, what: string])[];
  /** Path under `/help`. */
  readonly guide: string;
}

const SENTENCE: readonly [string, string] = ['↑ ↓', 'change the number of a sentence that has the focus'];
const UNDO: readonly (readonly [string, string])[] = [
  ['Ctrl Z', 'undo the last change'],
  ['Ctrl Shift Z', 'redo it'],
];

const DESKS: Readonly<Record<string, PageHelp>> = {
  look: {
    title: 'Look',
    lines: [
      'Each column has a line: its type, what is missing, how it is distributed, how it is related to the target.',
      'Say in the sentence above what is to be predicted, what names a row, and what students never get.',
      'Choose a column to see its figures at the right.',
      'Findings name what would make an exercise unfair or easy: constants, leaks, repeated rows, an order.',
      'The rows are below; a condition such as “weight >= 10” selects among them.',
    ],
    keys: [['↑ ↓ ← →', 'go through the rows']],
    guide: 'instructor#look',
  },
  prepare: {
    title: 'Prepare',
    lines: [
      'Steps make the raw table fit to teach with. They are sentences, done in order.',
      'Choose a step to see rows before and after it. Nothing is changed until you save a version.',
      'Every version stays. Open an earlier one, make it current again, or delete one that nothing uses.',
      'A new raw file takes the place of the old one, or its rows or columns are added.',
      'A raw file that was wrong is taken back in the list of versions.',
    ],
    keys: UNDO,
    guide: 'instructor#prepare',
  },
  split: {
    title: 'Split',
    lines: [
      'The sentence at the right says which rows train, validate and are held out, and how they are chosen.',
      'The map shows where each row goes; below it are the shares of each class with their intervals.',
      'The checks say what follows: sizes, shares, groups that are split, features whose distributions differ.',
      'Folds test every row in turn: they have a page of their own beside this one.',
      'Save a split to set an exercise on it.',
    ],
    keys: [SENTENCE, ...UNDO],
    guide: 'instructor#split',
  },
  try: {
    title: 'Try',
    lines: [
      'Models are fitted and judged over folds that you saved. Begin with a baseline.',
      'The table has the mean over the folds with its standard error, and the gap to the training rows.',
      'Choose a run to see its curve, its model, its errors, and how it compares with another.',
      'A look at held-out figures is recorded. A reference run takes one; exercises compare answers with it.',
      'A run leaves as a notebook, a script or a model file.',
    ],
    guide: 'instructor#try',
  },
  release: {
    title: 'Release',
    lines: [
      'The saved splits, and the exercises on each.',
      'Set an exercise on a split: it asks for what that split holds out.',
      'A split can be named; one that nothing uses can be deleted.',
    ],
    guide: 'instructor#release',
  },
};

const COURSE: readonly (readonly [pattern: RegExp, help: PageHelp])[] = [
  [
    /^data$/,
    {
      title: 'Data',
      lines: [
        'The tables of the course. Choose or drop one or several files, or paste cells from a spreadsheet.',
        'A file that cannot be read is refused with its line; nothing is repaired silently.',
        'Open a data set to look at it, prepare it, split it, try models on it and release exercises.',
      ],
      guide: 'instructor#import-a-table',
    },
  ],
  [
    /^exercises\/new$/,
    {
      title: 'New exercise',
      lines: [
        'Choose the data set and the split; then write the sheet as students will see it.',
        'Each question has its key and its marks in the margin. Points on the mark line can be moved.',
        'Read the sheet as a student before you release it.',
        'The release is refused if the pack would give held-out answers away.',
      ],
      keys: [['← →', 'move a point of the mark line that has the focus']],
      guide: 'instructor#release',
    },
  ],
  [
    /^exercises\/[^/]+\/explain$/,
    {
      title: 'What to explain',
      lines: [
        'One page on an exercise for the whole class, to print: the commonest mistakes and what to do about them.',
        'It names no student and no row. Marks, scores and subgroups are added once the exercise is returned.',
      ],
      guide: 'instructor#see-what-was-handed-in',
    },
  ],
  [
    /^exercises\/[^/]+\/submissions/,
    {
      title: 'What was handed in',
      lines: [
        'Each dot is a student’s best score on the mark line; the table below has who handed in what.',
        'Open a submission to see its checks, its figures, its slips and its marks.',
        'Marks can be changed by hand with a reason, and answers commented on; the student reads both.',
        'Return the exercise to show marks and final figures to students.',
      ],
      keys: [
        ['[ ]', 'the submission before, the next one'],
        ['k j', 'the same among those that count, one of each student'],
        ['n', 'name a mistake in the answer'],
        ['m', 'give it other marks'],
        ['c a', 'comment on the answer, or on all answers of its student'],
      ],
      guide: 'instructor#see-what-was-handed-in',
    },
  ],
  [
    /^exercises\/[^/]+/,
    {
      title: 'An exercise',
      lines: [
        'What the exercise asks, until when, and how often.',
        'A file is checked in your browser as soon as you choose it; only sending it uses an attempt.',
        'Each receipt has the checks first, then what you may be shown before the exercise is returned.',
        'The pack has the data, an example of each file, and programs to begin with.',
      ],
      guide: 'student',
    },
  ],
  [
    /^exercises$/,
    {
      title: 'Exercises',
      lines: [
        'All exercises of the course, with their state, their deadline, and what was handed in.',
        'Set a new exercise on a data set and a split.',
        '“Keys out of date” means that a reference run changed since the keys were computed.',
      ],
      guide: 'instructor#release',
    },
  ],
  [
    /^gradebook$/,
    {
      title: 'Gradebook',
      lines: [
        'Students by exercises, with the marks of what counts and the total of what is returned. Headings sort.',
        'A student’s name opens their marks, what they are excused from, and how their total came about.',
        'At the right: how exercises make a total, and the marks for other programs.',
      ],
      guide: 'instructor#gradebook',
    },
  ],
  [
    /^marks$/,
    {
      title: 'Marks',
      lines: ['Your marks in the exercises that were returned, and what they come to, step by step.'],
      guide: 'student#after-the-return',
    },
  ],
  [
    /^jobs$/,
    {
      title: 'Jobs',
      lines: [
        'What the server computes for the course, how far it is, and what failed. A job can be cancelled.',
      ],
      guide: 'instructor#try',
    },
  ],
  [
    /^people/,
    {
      title: 'People',
      lines: [
        'Who is in the course, in which role. Students join with the code, or are invited by a class list.',
        'Assistants see what was handed in; instructors do everything. A course can have several instructors.',
        'The activity log records who changed what.',
      ],
      guide: 'instructor#people',
    },
  ],
];

const ELSEWHERE: PageHelp = {
  title: 'Modest Sieve',
  lines: [
    'Instructors prepare data sets and exercises; what students hand in is checked against held-out answers.',
    'Open a course, or join one with the code that you were given.',
  ],
  guide: '',
};

/**
 * The help of a page.
 *
 * @param path of the address, without its query
 * @param role of the reader; a student has pages of their own under some addresses
 */
export function helpOf(path: string, role: 'instructor' | 'assistant' | 'student' | null): PageHelp {
  const [, place] = /^\/courses\/[^/]+\/(.+)$/.exec(path) ?? [];
  if (place === undefined) return ELSEWHERE;
  const [, desk] = /^data\/[^/]+\/([a-z]+)/.exec(place) ?? [];
  if (desk !== undefined) return DESKS[desk] ?? ELSEWHERE;
  const found = COURSE.find(([pattern]) => pattern.test(place))?.[1] ?? ELSEWHERE;
  if (role === 'student' || !/^exercises\/(?!new$)[^/]+$/.test(place)) return found;
  return {
    title: 'An exercise',
    lines: [
      'A draft is written here as students will see it, with keys and marks in the margin.',
      'Once it is released: how it was audited, what its keys are, what students are shown.',
      'Change the deadline or the brief at any time; a correction changes questions and keys.',
      'What was handed in has a page of its own.',
    ],
    guide: 'instructor#release',
  };
}
