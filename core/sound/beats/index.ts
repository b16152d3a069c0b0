export * from './grid';
export * from './hear';
export type { Doubt } from './doubts';
export { onsetHz, toneHz } from './novelty';
export { sectionNames, type Section, type SectionName } from './sections';
export { beatScore } from './score';
