import { Injectable, ParseUUIDPipe, type PipeTransform } from '@nestjs/common';
import { notFound } from '../platform/errors/problem.js';

/** Which version of a data set a path means. */
export interface VersionAddress {
  readonly dataSetId: string;
  /** Null for the current version. */
  readonly number: number | null;
}

/** A version in a path: the id of the data set alone for the current version, and with a dot and a number for any other. */
export const versionAddress = (dataSetId: string, number: number | null): string =>
  number === null ? dataSetId : `${dataSetId}.${number}`;

const ids = new ParseUUIDPipe();

/** Reads the `:dataSet` of a path as a version. */
@Injectable()
export class VersionPipe implements PipeTransform<string, Promise<VersionAddress>> {
  async transform(text: string): Promise<VersionAddress> {
    const [id = '', number, ...more]: (string | undefined)[] = text.split('.');
    await ids.transform(id, { type: 'param', data: 'dataSet' });
    if (more.length > 0 || (number !== undefined && !/^[1-9]\d{0,8}$/.test(number))) throw notFound();
    return { dataSetId: id, number: number === undefined ? null : Number(number) };
  }
}

/** Reads the `:dataSet` of a path where all versions are meant, whichever is named. */
@Injectable()
export class DataSetPipe implements PipeTransform<string, Promise<string>> {
  async transform(text: string): Promise<string> {
    return (await new VersionPipe().transform(text)).dataSetId;
  }
}
