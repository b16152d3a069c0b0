export { databaseAnswers } from '#data/db';
