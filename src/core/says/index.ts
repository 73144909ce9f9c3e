export { statementsOf } from './says';
export { rackLine, type RackLine } from './rack';
export { nextThing, type NextThing } from './next';
export { STATEMENT_KINDS, type Statement } from './statement';
