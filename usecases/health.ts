export { databaseAnswers } from '#data/db';
export { isFull } from '#data/room';
