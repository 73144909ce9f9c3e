export { commonOffset, type CommonOffset } from './common-offset';
export { instrumentFriction, type FrictionAt, type InstrumentFriction, type StringFriction } from './friction';
export { beforeInquiry, type BeforeInquiry } from './inquiry';
export { evidenceOf, inquiryUnderWay, questionOf, questionsLeft, type EvidenceRecord } from './question';
export { gainWords, roundsGain } from './hands';
export {
  instrumentStory,
  roomSince,
  type InstrumentStory,
  type StoryPoint,
  type StoryWish,
  type StringStory,
} from './story';
export {
  fallsByAge,
  learnedOf,
  learnedPriors,
  newestSets,
  setsTaughtBy,
  type Learned,
  type TaughtSet,
} from './learning';
