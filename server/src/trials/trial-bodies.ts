import { LARGEST_SEED } from '@modest-sieve/core/foundation';
import {
  MOST_SEARCHED,
  type SearchPlan,
  type SharedPlan,
  type TrialPlan,
  type Varied,
} from '@modest-sieve/core/evaluation';
import { SCREENS, type ScreenBy, type Screening } from '@modest-sieve/core/models';
import {
  ArrayMaxSize,
  IsArray,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsString,
  IsUUID,
  Max,
  MaxLength,
  Min,
} from 'class-validator';
import type { FamiliesRequest, TrialRequest } from '../api/api.js';
import { AreBodies, IsBody } from '../platform/bodies/nested.js';
import { PlanBody, plainPlan } from '../splits/splits.controller.js';

class VariedBody implements Varied {
  @IsString() @MaxLength(100) key: string;
  @IsArray() @ArrayMaxSize(200) @IsNumber({}, { each: true }) settings: number[];
}

class SearchBody implements SearchPlan {
  @IsIn(['random', 'halving']) method: 'random' | 'halving';
  @IsInt() count: number;
  @IsNumber() minutes: number;
}

class ScreeningBody implements Screening {
  @IsIn(SCREENS) by: ScreenBy;
  @IsInt() keep: number;
}

class TrialPlanBody implements TrialPlan {
  @IsBody(() => PlanBody) model: PlanBody;
  @IsArray() @ArrayMaxSize(5000) @IsString({ each: true }) features: string[];
  @IsOptional() @IsBody(() => ScreeningBody) screening?: ScreeningBody | null;
  @AreBodies(() => VariedBody, MOST_SEARCHED) vary: VariedBody[];
  @IsOptional() @IsBody(() => SearchBody) search?: SearchBody | null;
  @IsString() @MaxLength(100) metric: string;
  @IsIn(['best', 'simplest']) choose: 'best' | 'simplest';
  @IsOptional() @IsString() @MaxLength(1000) weight: string | null = null;
  @IsInt() @Min(0) @Max(LARGEST_SEED) seed: number;
}

export class TrialBody implements TrialRequest {
  @IsUUID(undefined, { message: 'Choose saved folds.' }) foldSetId: string;
  @IsBody(() => TrialPlanBody, 'Say what is to be tried.')
  plan: TrialPlanBody;
}

class SharedPlanBody implements SharedPlan {
  @IsArray() @ArrayMaxSize(5000) @IsString({ each: true }) features: string[];
  @IsOptional() @IsBody(() => ScreeningBody) screening?: ScreeningBody | null;
  @IsString() @MaxLength(100) metric: string;
  @IsOptional() @IsString() @MaxLength(1000) weight: string | null = null;
  @IsInt() @Min(0) @Max(LARGEST_SEED) seed: number;
  @IsOptional() @IsBody(() => SearchBody) search?: SearchBody | null;
}

export class FamiliesBody implements FamiliesRequest {
  @IsUUID(undefined, { message: 'Choose saved folds.' }) foldSetId: string;
  @IsBody(() => SharedPlanBody, 'Say what is to be tried.')
  plan: SharedPlanBody;
}

/** A trial as it is asked for, without the classes that checked it. */
export function plainTrial({
  model,
  features,
  screening,
  vary,
  search,
  metric,
  choose,
  weight,
  seed,
}: TrialPlanBody): TrialPlan {
  return {
    model: plainPlan(model),
    features,
    ...plainScreening(screening),
    vary: vary.map(({ key, settings }) => ({ key, settings })),
    // Left out where there is none: a plan that was asked for before is known again.
    ...(search ? { search: plainSearch(search) } : {}),
    metric,
    choose,
    weight,
    seed,
  };
}

export const plainScreening = (screening?: Screening | null): Pick<TrialPlan, 'screening'> =>
  screening ? { screening: { by: screening.by, keep: screening.keep } } : {};

export const plainSearch = ({ method, count, minutes }: SearchPlan): SearchPlan => ({
  method,
  count,
  minutes,
});
