import 'reflect-metadata';
import { Transform, Type } from 'class-transformer';
import { IsNumber, IsObject, Max, Min, ValidateIf, ValidateNested } from 'class-validator';

/** Decorators for forms, beside those of class-validator. A form is a class that says what a value from outside may be. */

/** A text without what stands around it. */
export const trimmed = () =>
  Transform(({ value }: { value: unknown }) => (typeof value === 'string' ? value.trim() : value));

/** What follows is checked unless the value is null. */
export const orNull = () => ValidateIf((_, value) => value !== null);

/** May be left out; null is a value, and checked as one. */
export const optional = () => ValidateIf((_, value) => value !== undefined);

/** An object of a form of its own. */
export const nested = (type: () => new () => object) => (target: object, key: string) => {
  ValidateNested()(target, key);
  IsObject()(target, key);
  Type(type)(target, key);
};

const between = (least: number, most: number) => () => (target: object, key: string) => {
  IsNumber()(target, key);
  Min(least)(target, key);
  Max(most)(target, key);
};
/** A part of a whole, 0 to 1. */
export const share = between(0, 1);
/** A part of what is possible to either side, −1 to 1. */
export const signedShare = between(-1, 1);
