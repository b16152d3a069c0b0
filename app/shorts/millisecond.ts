/** Times of words are kept in milliseconds. @param seconds rounded to a millisecond */
export const millisecond = (seconds: number): number => Math.round(seconds * 1000) / 1000;
