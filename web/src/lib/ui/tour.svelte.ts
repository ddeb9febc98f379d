/** One thing to do on the tour: a control that is really pressed, and what it does. */
export type Step = {
  /** The screen that it is on, and what people call that. */
  path: RegExp;
  screen: string;
  /** The control: the first of these that is there. */
  at: string[];
  title: string;
  words: string;
};

const ROSTER = /^\/(clients\/\d+)?$/;
const BENCH = /^\/lines\//;
export const STEPS: Step[] = [
  {
    path: ROSTER,
    screen: 'the roster',
    at: ['[id^="cell-"][aria-label$="find a swap"]', '[id^="cell-"]'],
    title: 'A line, at a place',
    words:
      'Lines stand below each other, places side by side. Press this cell: what stands in for the line there?',
  },
  {
    path: BENCH,
    screen: 'a line at a place',
    at: ['[aria-label="Candidates"] button:nth-of-type(2)', '[aria-label="Candidates"] button'],
    title: 'What can stand in for it',
    words: 'The likest first, each with its load. Press this one to see what it would change.',
  },
  {
    path: BENCH,
    screen: 'a line at a place',
    at: ['[aria-label="Resistance profiles"]'],
    title: 'Where it is hard',
    words:
      'Above the line the written lift, below it this one, over the length of the muscle. Press into it: the figures go there.',
  },
  {
    path: BENCH,
    screen: 'a line at a place',
    at: ['[aria-label="About the swap"] button:nth-of-type(2)'],
    title: 'Set it by hand',
    words:
      'Press it: pulley, distance, turn and load, each moved by hand; the match follows. Shaded is how far off each may be.',
  },
  {
    path: BENCH,
    screen: 'a line at a place',
    at: ['[data-tour="accept"]'],
    title: 'Decide',
    words: 'Press it: from now on this is what your client does there. It can be undone.',
  },
  {
    path: BENCH,
    screen: 'a line at a place',
    at: ['header a[href="/"]'],
    title: 'Back',
    words: 'The mark leads to the roster from everywhere.',
  },
  {
    path: ROSTER,
    screen: 'the roster',
    at: ['[data-tour="log"]'],
    title: 'Out to the gym',
    words: 'Cards for your client’s phone or on paper, and the log of what comes back.',
  },
  {
    path: /^\/clients\/\d+\/log$/,
    screen: 'cards and log',
    at: ['[data-tour="hand-over"]'],
    title: 'Hand over',
    words:
      'It makes a link that only your client has. What is noted there comes back here, and the next loads follow from it.',
  },
];

const KEPT = 'tour';

/** Where somebody is on the tour; it goes on after a reload. */
class Tour {
  step: number | null = $state(null);
  /** Whether it was offered, taken or not. */
  seen = $state(true);

  constructor() {
    const kept = localStorage.getItem(KEPT);
    this.seen = kept !== null;
    this.step = kept !== null && kept !== 'over' ? Number(kept) : null;
  }
  to(step: number | null) {
    const over = step === null || step >= STEPS.length;
    this.step = over ? null : step;
    this.seen = true;
    localStorage.setItem(KEPT, over ? 'over' : String(step));
  }
}
export const tour = new Tour();
