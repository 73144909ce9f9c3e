import type { ComponentType } from 'react';
import type { InstrumentLife } from '../../core/log';
import { traitsOf } from '../../core/strings';
import { KEYS, type KeyLines } from '../keys/table';

/** What people come to an instrument for: its tabs. */
export const TAB_GROUPS = {
  tune: 'Tune',
  strings: 'New strings',
  stability: 'Stability',
  problems: 'Problems',
  settings: 'Settings',
} as const;
export type TabGroup = keyof typeof TAB_GROUPS;
/** Where the views of all instruments stand: the header. */
export const PLACES = {
  instruments: 'Instruments',
  show: 'Show',
  reference: 'Reference pitch',
  practice: 'Practice',
  history: 'History',
} as const;
export type ViewPlace = keyof typeof PLACES;

interface Shared {
  /** The first part of its address. */
  path: string;
  title: string;
  /** What somebody wants who looks for it, in words of theirs. */
  wants: readonly string[];
  keys: KeyLines;
  /** Where the demonstration shows it, for pictures and tests. */
  shownAt: string;
}

/** A view of one instrument, under one of its jobs. */
export interface InstrumentViewLine extends Shared {
  of: 'instrument';
  job: TabGroup;
  /** It goes on, listening, when another instrument is taken in hand; the others begin anew. */
  goesOn?: true;
  /** Why an instrument has no such view. */
  unfit?: (life: InstrumentLife) => string | undefined;
  load: () => Promise<{ default: ComponentType<{ life: InstrumentLife }> }>;
}

/** A view of all instruments. */
export interface GeneralViewLine extends Shared {
  of: 'all';
  place: ViewPlace;
  load: () => Promise<{ default: ComponentType }>;
}
export type ViewLine = InstrumentViewLine | GeneralViewLine;

const as = <P>(view: ComponentType<P>) => ({ default: view });

/** Every view, in the order of jobs and header; the first of a job or place is where it leads. Router, header, tabs, map of keys, pictures and the tests of access are made from it. */
export const VIEWS: readonly ViewLine[] = [
  {
    path: 'bench',
    title: 'Check and tune',
    of: 'instrument',
    job: 'tune',
    goesOn: true,
    wants: ['tune it', 'check how far it is off', 'read all strings', 'tuner', 'hear a string'],
    keys: KEYS.bench,
    shownAt: 'bench/requinto',
    load: () => import('../views/bench/BenchView').then((m) => as(m.BenchView)),
  },
  {
    path: 'ear',
    title: 'By ear',
    of: 'instrument',
    job: 'tune',
    wants: [
      'no tuner here',
      'no tuner at hand',
      'tune by beats',
      'tune with a fork',
      'checkpoints between strings',
      'harmonics',
    ],
    keys: KEYS.ear,
    shownAt: 'ear/requinto',
    load: () => import('../views/ear/EarView').then((m) => as(m.EarView)),
  },
  {
    path: 'tuning',
    title: 'Other tunings',
    of: 'instrument',
    job: 'tune',
    wants: ['drop tuning', 'another tuning', 'open tuning', 'put on a capo', 'tune down', 'temperament'],
    keys: KEYS.tuning,
    shownAt: 'tuning/viola',
    load: () => import('../views/tuning/TuningView').then((m) => as(m.TuningView)),
  },
  {
    path: 'bridge',
    title: 'Floating bridge',
    of: 'instrument',
    job: 'tune',
    wants: [
      'tune a floating bridge',
      'turning one string moves the others',
      'claw and springs',
      'bar and tremolo springs',
      'block the bridge',
    ],
    keys: KEYS.bridge,
    shownAt: 'bridge/baritone',
    unfit: ({ record }) =>
      traitsOf(record).holds === 'springs'
        ? undefined
        : `The bridge of ${record.name} is not held by springs. Turning one string does not move the others.`,
    load: () => import('../views/bridge/BridgeView').then((m) => as(m.BridgeView)),
  },
  {
    path: 'fitting',
    title: 'Put on and stretch',
    of: 'instrument',
    job: 'strings',
    wants: ['just strung', 'new strings', 'restring', 'put on a string', 'stretch the strings', 'a string broke'],
    keys: KEYS.fitting,
    shownAt: 'fitting/requinto/s1',
    load: () => import('../views/fitting/FittingView').then((m) => as(m.FittingView)),
  },
  {
    path: 'set',
    title: 'String tensions',
    of: 'instrument',
    job: 'strings',
    wants: ['string gauge', 'tension', 'will it break', 'choose strings', 'how near is it to breaking'],
    keys: {},
    shownAt: 'set/requinto',
    load: () => import('../views/set/SetView').then((m) => as(m.SetView)),
  },
  {
    path: 'settling',
    title: 'When it will hold',
    of: 'instrument',
    job: 'stability',
    wants: ['when will it hold', 'how far has it fallen', 'how fast does it fall', 'correct a reading', 'settling'],
    keys: {},
    shownAt: 'settling/requinto',
    load: () => import('../views/settling/SettlingView').then((m) => as(m.SettlingView)),
  },
  {
    path: 'life',
    title: 'Its life',
    of: 'instrument',
    job: 'stability',
    wants: [
      'history of one instrument',
      'how old are the strings',
      'whose is it',
      'as found and as left',
      'photograph',
      'service sheet',
    ],
    keys: {},
    shownAt: 'life/baritone',
    load: () => import('../views/life/LifeView').then((m) => as(m.LifeView)),
  },
  {
    path: 'causes',
    title: 'Why it goes out',
    of: 'instrument',
    job: 'problems',
    wants: [
      'flat when I bend',
      'goes out of tune',
      'does not stay in tune',
      'slips',
      'why is it flat',
      'peg slips',
      'bar does not return',
    ],
    keys: KEYS.causes,
    shownAt: 'causes/viola',
    load: () => import('../views/causes/CausesView').then((m) => as(m.CausesView)),
  },
  {
    path: 'friction',
    title: 'Sticks at the nut',
    of: 'instrument',
    job: 'problems',
    wants: ['sticks at the nut', 'friction', 'lubricate', 'binds', 'pings when I tune'],
    keys: KEYS.friction,
    shownAt: 'friction/baritone',
    unfit: ({ record }) => {
      const { tuner, locking } = traitsOf(record);
      if (locking) return `Clamps hold the strings of ${record.name} at the nut. They cannot stick there.`;
      return tuner === 'pin'
        ? `The strings of ${record.name} run straight to their pins. There is no nut to stick in.`
        : undefined;
    },
    load: () => import('../views/friction/FrictionView').then((m) => as(m.FrictionView)),
  },
  {
    path: 'octave',
    title: 'Intonation',
    of: 'instrument',
    job: 'problems',
    wants: ['saddle', 'is the saddle right', 'intonation', 'octave is off', 'frets sound sharp', 'move the bridge'],
    keys: KEYS.octave,
    shownAt: 'octave/baritone',
    unfit: ({ record }) => {
      const { frets, bowed } = traitsOf(record);
      return frets || bowed ? undefined : `${record.name} has no fingerboard, so there is no saddle or fret to set.`;
    },
    load: () => import('../views/octave/OctaveView').then((m) => as(m.OctaveView)),
  },
  {
    path: 'instrument',
    title: 'Settings',
    of: 'instrument',
    job: 'settings',
    wants: ['edit the instrument', 'change its strings', 'rename', 'put it away', 'number of strings'],
    keys: {},
    shownAt: 'instrument/requinto',
    load: () => import('../views/instrument/EditView').then((m) => as(m.EditView)),
  },
  {
    path: 'plan',
    title: 'Schedule',
    of: 'all',
    place: 'show',
    wants: [
      'we play at eight',
      'show tonight',
      'when to tune before the show',
      'plan the day',
      'when does the show start',
    ],
    keys: KEYS.plan,
    shownAt: 'plan',
    load: () => import('../views/plan/PlanView').then((m) => as(m.PlanView)),
  },
  {
    path: 'wings',
    title: 'Backstage',
    of: 'all',
    place: 'show',
    wants: ['retune between two pieces', 'backstage', 'in the wings', 'during the show'],
    keys: KEYS.wings,
    shownAt: 'wings',
    load: () => import('../views/wings/WingsView').then((m) => as(m.WingsView)),
  },
  {
    path: 'reference',
    title: 'Reference pitch',
    of: 'all',
    place: 'reference',
    wants: ['fork', 'keyboard pitch', 'A4', '442', 'measure a reference', 'another player is sharper'],
    keys: KEYS.reference,
    shownAt: 'reference',
    load: () => import('../views/reference/ReferenceView').then((m) => as(m.ReferenceView)),
  },
  {
    path: 'practice',
    title: 'Practice',
    of: 'all',
    place: 'practice',
    wants: ['train my ear', 'learn to tune', 'exercises', 'hear flat and sharp', 'practise with a peg'],
    keys: KEYS.practice,
    shownAt: 'practice',
    load: () => import('../views/practice/PracticeView').then((m) => as(m.PracticeView)),
  },
  {
    path: 'log',
    title: 'History',
    of: 'all',
    place: 'history',
    wants: ['export', 'import', 'back up', 'what did I do', 'records', 'put back on'],
    keys: {},
    shownAt: 'log',
    load: () => import('../views/log/LogView').then((m) => as(m.LogView)),
  },
  {
    path: 'rack',
    title: 'All instruments',
    of: 'all',
    place: 'instruments',
    wants: [
      'all instruments',
      'which instrument needs tuning',
      'walk through the rack',
      'print labels',
      'find an instrument',
    ],
    keys: KEYS.rack,
    shownAt: 'rack',
    load: () => import('../views/rack/RackView').then((m) => as(m.RackView)),
  },
  {
    path: 'inventory',
    title: 'Import a list',
    of: 'all',
    place: 'instruments',
    wants: ['import instruments', 'inventory', 'spreadsheet of instruments', 'CSV'],
    keys: {},
    shownAt: 'inventory',
    load: () => import('../views/rack/InventoryView').then((m) => as(m.InventoryView)),
  },
  {
    path: 'trial',
    title: 'Compare treatments',
    of: 'all',
    place: 'instruments',
    wants: ['treated against untreated', 'does stretching help', 'compare two sets', 'trial'],
    keys: {},
    shownAt: 'trial',
    load: () => import('../views/trial/TrialView').then((m) => as(m.TrialView)),
  },
  {
    path: 'add',
    title: 'Add an instrument',
    of: 'all',
    place: 'instruments',
    wants: ['another instrument', 'new instrument', 'add mine'],
    keys: {},
    shownAt: 'add',
    load: () => import('../views/instrument/AddView').then((m) => as(m.AddView)),
  },
];

/** The views that an instrument has. */
export const viewsOf = (life: InstrumentLife): InstrumentViewLine[] =>
  VIEWS.filter((v): v is InstrumentViewLine => v.of === 'instrument' && v.unfit?.(life) === undefined);

/** Where a view of an instrument is; the bench where it has no such view. */
export const pathTo = (basePath: string, view: InstrumentViewLine, life: InstrumentLife): string =>
  `${basePath}/${view.unfit?.(life) === undefined ? view.path : 'bench'}/${life.record.instrumentId}`;

/** The views of one instrument for one job. */
export const viewsFor = (life: InstrumentLife, job: TabGroup): InstrumentViewLine[] =>
  viewsOf(life).filter((v) => v.job === job);
/** The views of all instruments at one place of the header. */
export const viewsAt = (place: ViewPlace): GeneralViewLine[] =>
  VIEWS.filter((v): v is GeneralViewLine => v.of === 'all' && v.place === place);
