export { statementsOf, type SayWish } from './says';
export { nextThing, type NextAsked, type NextPlace, type NextThing } from './next';
export { STATEMENT_KINDS, type Statement, type StatementKind } from './statement';
