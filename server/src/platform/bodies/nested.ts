import { applyDecorators } from '@nestjs/common';
import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsObject, ValidateNested } from 'class-validator';

/** An object within a body. Without `IsObject` a list would pass: class-validator looks at its members only. */
export const IsBody = (type: () => new () => object, message?: string) =>
  applyDecorators(IsObject(message === undefined ? {} : { message }), ValidateNested(), Type(type));

/** A list of at most so many objects within a body. */
export const AreBodies = (type: () => new () => object, most: number, message?: string) =>
  applyDecorators(
    IsArray(),
    ArrayMaxSize(most, message === undefined ? {} : { message }),
    IsObject({ each: true }),
    ValidateNested({ each: true }),
    Type(type),
  );
