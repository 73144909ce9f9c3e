export { instrumentStory, type InstrumentStory, type StoryPoint, type StoryWish, type StringStory } from './story';
export { fallsByAge, learnedPriors, type LearnedPrior } from './learning';
