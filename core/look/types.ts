/** Grading of a picture; every number −1 to 1 with 0 for as filmed. */
export interface Look {
  exposure: number;
  contrast: number;
  saturation: number;
  temperature: number;
  /** A named look of ours, applied after the numbers. */
  named?: string;
  /** A table brought in as `.cube`, by its id; applied last. */
  lut?: string;
}
