export { statementsOf, type SayWish } from './says';
export { rackLine, type RackLine } from './rack';
export { nextThing, type NextAsked, type NextPlace, type NextThing } from './next';
export { STATEMENT_KINDS, type Statement, type StatementKind } from './statement';
