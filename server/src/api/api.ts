/** What the HTTP API takes and answers. The OpenAPI document's schemas are generated from these types. */
export type * from './people.js';
export type * from './courses.js';
export type * from './data.js';
export type * from './looks.js';
export type * from './splits.js';
export type * from './removal.js';
export type * from './exercises.js';
export type * from './previews.js';
export type * from './gradebook.js';
export type * from './submissions.js';
export type * from './class.js';
export type * from './trials.js';
export type * from './administration.js';
