import type { ComponentType } from 'react';
import type { InstrumentLife } from '../../core/records';
import { traitsOf } from '../../core/strings';
import { KEYS, type KeyLines } from '../keys/table';

interface Shared {
  /** The first part of its address. */
  path: string;
  title: string;
  keys: KeyLines;
  /** Where the demonstration shows it, for pictures and tests. */
  shownAt: string;
}

/** A view of one instrument: a tab beside its name. */
export interface InstrumentViewLine extends Shared {
  of: 'instrument';
  /** It goes on, listening, when another instrument is taken in hand; the others begin anew. */
  goesOn?: true;
  /** Why an instrument has no such view. */
  unfit?: (life: InstrumentLife) => string | undefined;
  load: () => Promise<{ default: ComponentType<{ life: InstrumentLife }> }>;
}

/** A view of all instruments: in the header, if it is not reached from elsewhere. */
export interface GeneralViewLine extends Shared {
  of: 'all';
  inHeader: boolean;
  load: () => Promise<{ default: ComponentType }>;
}
export type ViewLine = InstrumentViewLine | GeneralViewLine;

const as = <P>(view: ComponentType<P>) => ({ default: view });

/** Every view, in the order of tabs and header. Router, header, tabs, map of keys, pictures and the tests of access are made from it. */
export const VIEWS: readonly ViewLine[] = [
  {
    path: 'bench',
    title: 'Bench',
    of: 'instrument',
    goesOn: true,
    keys: KEYS.bench,
    shownAt: 'bench/requinto',
    load: () => import('../views/bench/BenchView').then((m) => as(m.BenchView)),
  },
  {
    path: 'settling',
    title: 'Settling',
    of: 'instrument',
    keys: {},
    shownAt: 'settling/requinto',
    load: () => import('../views/settling/SettlingView').then((m) => as(m.SettlingView)),
  },
  {
    path: 'octave',
    title: 'Octave',
    of: 'instrument',
    keys: KEYS.octave,
    shownAt: 'octave/baritone',
    unfit: ({ record }) => {
      const { frets, bowed } = traitsOf(record);
      return frets || bowed
        ? undefined
        : `${record.name} has no fingerboard: there is no saddle or fret to set by the octave. Whether a string is worn shows in its settling.`;
    },
    load: () => import('../views/octave/OctaveView').then((m) => as(m.OctaveView)),
  },
  {
    path: 'bridge',
    title: 'Bridge',
    of: 'instrument',
    keys: KEYS.bridge,
    shownAt: 'bridge/baritone',
    unfit: ({ record }) =>
      traitsOf(record).holds === 'springs'
        ? undefined
        : `The bridge of ${record.name} is not held by springs: turning one string does not move the others.`,
    load: () => import('../views/bridge/BridgeView').then((m) => as(m.BridgeView)),
  },
  {
    path: 'tuning',
    title: 'Tuning',
    of: 'instrument',
    keys: KEYS.tuning,
    shownAt: 'tuning/viola',
    load: () => import('../views/tuning/TuningView').then((m) => as(m.TuningView)),
  },
  {
    path: 'ear',
    title: 'By ear',
    of: 'instrument',
    keys: KEYS.ear,
    shownAt: 'ear/requinto',
    load: () => import('../views/ear/EarView').then((m) => as(m.EarView)),
  },
  {
    path: 'causes',
    title: 'Causes',
    of: 'instrument',
    keys: KEYS.causes,
    shownAt: 'causes/viola',
    load: () => import('../views/causes/CausesView').then((m) => as(m.CausesView)),
  },
  {
    path: 'friction',
    title: 'Friction',
    of: 'instrument',
    keys: KEYS.friction,
    shownAt: 'friction/baritone',
    unfit: ({ record }) => {
      const { tuner, locking } = traitsOf(record);
      if (locking) return `Clamps hold the strings of ${record.name} at the nut: what is behind them does nothing.`;
      return tuner === 'pin'
        ? `The strings of ${record.name} run to their pins: there is no nut to bind in.`
        : undefined;
    },
    load: () => import('../views/friction/FrictionView').then((m) => as(m.FrictionView)),
  },
  {
    path: 'set',
    title: 'String set',
    of: 'instrument',
    keys: {},
    shownAt: 'set/requinto',
    load: () => import('../views/set/SetView').then((m) => as(m.SetView)),
  },
  {
    path: 'fitting',
    title: 'Fitting',
    of: 'instrument',
    keys: KEYS.fitting,
    shownAt: 'fitting/requinto/s1',
    load: () => import('../views/fitting/FittingView').then((m) => as(m.FittingView)),
  },
  {
    path: 'instrument',
    title: 'Edit',
    of: 'instrument',
    keys: {},
    shownAt: 'instrument/requinto',
    load: () => import('../views/instrument/EditView').then((m) => as(m.EditView)),
  },
  {
    path: 'plan',
    title: 'Plan',
    of: 'all',
    inHeader: true,
    keys: KEYS.plan,
    shownAt: 'plan',
    load: () => import('../views/plan/PlanView').then((m) => as(m.PlanView)),
  },
  {
    path: 'wings',
    title: 'Wings',
    of: 'all',
    inHeader: false,
    keys: KEYS.wings,
    shownAt: 'wings',
    load: () => import('../views/wings/WingsView').then((m) => as(m.WingsView)),
  },
  {
    path: 'trial',
    title: 'Trials',
    of: 'all',
    inHeader: true,
    keys: {},
    shownAt: 'trial',
    load: () => import('../views/trial/TrialView').then((m) => as(m.TrialView)),
  },
  {
    path: 'reference',
    title: 'Reference',
    of: 'all',
    inHeader: true,
    keys: KEYS.reference,
    shownAt: 'reference',
    load: () => import('../views/reference/ReferenceView').then((m) => as(m.ReferenceView)),
  },
  {
    path: 'log',
    title: 'Log',
    of: 'all',
    inHeader: true,
    keys: {},
    shownAt: 'log',
    load: () => import('../views/log/LogView').then((m) => as(m.LogView)),
  },
  {
    path: 'add',
    title: 'Add an instrument',
    of: 'all',
    inHeader: false,
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
