import { lengthOf } from '#core/time';
import { meanSquares, type Prepared } from './score';
import { ingredientNames, type Decision, type Ingredients, type Mix } from './types';

/** Logistic regression: the logit is the intercept and the weighted sum of the features. */
export interface LogisticModel {
  intercept: number;
  weights: number[];
}

/**
 * Logistic regression with a ridge penalty on the weights (not on the intercept), by iteratively reweighted least
 * squares (Hastie, Tibshirani, Friedman 2009, 4.4.1; le Cessie & van Houwelingen 1992).
 * @param rows one list of features an example; `labels` whether it belongs to the class
 */
export function fitLogistic(
  rows: readonly (readonly number[])[],
  labels: readonly boolean[],
  ridge: number,
): LogisticModel {
  const size = (rows[0]?.length ?? 0) + 1;
  let beta = new Array<number>(size).fill(0);
  for (let step = 0; step < 60; step++) {
    const gradient = beta.map((value, index) => (index ? -ridge * value : 0));
    const hessian = beta.map((_, i) => beta.map((_, j) => (i === j ? (i ? ridge : 1e-9) : 0)));
    for (const [index, row] of rows.entries()) {
      const x = [1, ...row];
      const p = likelihood(beta, x);
      for (let i = 0; i < size; i++) {
        gradient[i]! += x[i]! * ((labels[index] ? 1 : 0) - p);
        for (let j = 0; j < size; j++) hessian[i]![j]! += x[i]! * x[j]! * p * (1 - p);
      }
    }
    const change = solve(hessian, gradient);
    // A full step can overshoot where the classes are far apart; half of a long one is still the right way.
    const longest = Math.max(...change.map(Math.abs));
    const share = longest > 5 ? 5 / longest : 1;
    beta = beta.map((value, index) => value + share * change[index]!);
    if (longest < 1e-9) break;
  }
  return { intercept: beta[0]!, weights: beta.slice(1) };
}

const likelihood = (beta: readonly number[], x: readonly number[]) =>
  1 / (1 + Math.exp(-x.reduce((sum, value, index) => sum + value * beta[index]!, 0)));

/** Gaussian elimination with partial pivoting. */
function solve(matrix: number[][], right: number[]): number[] {
  const rows = matrix.map((row, index) => [...row, right[index]!]);
  const size = rows.length;
  for (let column = 0; column < size; column++) {
    let pivot = column;
    for (let row = column + 1; row < size; row++)
      if (Math.abs(rows[row]![column]!) > Math.abs(rows[pivot]![column]!)) pivot = row;
    [rows[column], rows[pivot]] = [rows[pivot]!, rows[column]!];
    for (let row = 0; row < size; row++) {
      if (row === column) continue;
      const factor = rows[row]![column]! / rows[column]![column]!;
      for (let at = column; at <= size; at++) rows[row]![at]! -= factor * rows[column]![at]!;
    }
  }
  return rows.map((row, index) => row[size]! / row[index]!);
}

/** What a person's keeps and drops say about what they like. */
export interface Preference {
  /** How strongly each ingredient speaks for keeping; negative speaks against. Comparable with one another. */
  weights: Ingredients;
  kept: number;
  dropped: number;
  /** Share of the decisions that the model would have made the same way. */
  agreement: number;
}

/** Pulls the weights towards nothing, so that two examples do not turn the mix over. */
const ridge = 0.6;

/** A stretch that somebody kept or dropped, as what a score is made of. */
export interface Example {
  kept: boolean;
  /** Mean squares of the ingredients, 0 to 1. */
  means: Ingredients;
}

/** What decisions teach; those about files that are not there teach nothing. */
export function examplesOf(prepared: readonly Prepared[], decisions: readonly Decision[]): Example[] {
  const byId = new Map(prepared.map((each) => [each.footage.id, each]));
  return decisions.flatMap((decision) => {
    const file = byId.get(decision.media);
    return file && lengthOf(decision) > 0.05
      ? [{ kept: decision.verdict === 'keep', means: meanSquares(file, decision.start, decision.end) }]
      : [];
  });
}

/**
 * Learns from decisions: logistic regression on the mean squares of the ingredients, the same numbers a score is made
 * of. Null while there is not at least one keep and one drop that differ.
 */
export function learnPreference(examples: readonly Example[]): Preference | null {
  const kept = examples.filter((each) => each.kept).length;
  if (kept === 0 || kept === examples.length) return null;
  const rows = examples.map(({ means }) => ingredientNames.map((name) => means[name]));
  const model = fitLogistic(
    rows,
    examples.map((each) => each.kept),
    ridge,
  );
  const agrees = examples.filter(
    (each, index) => likelihood([model.intercept, ...model.weights], [1, ...rows[index]!]) > 0.5 === each.kept,
  ).length;
  return {
    weights: Object.fromEntries(ingredientNames.map((name, index) => [name, model.weights[index]!])) as Ingredients,
    kept,
    dropped: examples.length - kept,
    agreement: agrees / examples.length,
  };
}

/** Furthest a weight is moved by a proposal, in points of the mix. */
const reach = 45;

/**
 * A mix that leans towards what was kept: each weight moves the way its preference points, the strongest one furthest,
 * and the further the more decisions stand behind it.
 */
export function proposeMix({ weights, kept, dropped }: Preference, mix: Mix): Mix {
  const strongest = Math.max(0.5, ...ingredientNames.map((name) => Math.abs(weights[name])));
  const trust = (kept + dropped) / (kept + dropped + 4);
  return Object.fromEntries(
    ingredientNames.map((name) => [
      name,
      Math.round(Math.min(100, Math.max(0, mix[name] + (reach * trust * weights[name]) / strongest))),
    ]),
  ) as Mix;
}
