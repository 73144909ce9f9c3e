export { instrumentStatements, statementsOf } from './says';
export type { SayAsked, Walks } from './asked';
export type { StringNext } from './string-next';
export { rackLine, type RackLine } from './rack';
export { nextThing, type NextThing } from './next';
export { STATEMENT_KINDS, type Statement, type StatementKind } from './statement';
export { trialSides } from './sides';
export { bandWords, columnsWords, holdsAsked, shortFigure } from './words';
