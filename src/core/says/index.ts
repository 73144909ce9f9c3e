export { instrumentStatements, statementsOf } from './says';
export { visitIn, type SayAsked, type Walks } from './asked';
export { rackLine, type RackLine } from './rack';
export { nextThing, type NextThing } from './next';
export { STATEMENT_KINDS, type Statement, type StatementKind } from './statement';
export { trialSides } from './sides';
export { bandWords, columnsWords, holdsAsked, shortFigure } from './words';
