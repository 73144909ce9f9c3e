export { commonOffset } from './common-offset';
export { instrumentFriction, type FrictionAt, type InstrumentFriction, type StringFriction } from './friction';
export { beforeInquiry, type BeforeInquiry } from './inquiry';
export { instrumentStory, type InstrumentStory, type StoryPoint, type StoryWish, type StringStory } from './story';
export { fallsByAge, learnedPriors, type LearnedPrior } from './learning';
