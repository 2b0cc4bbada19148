import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { VersionRecord } from '../store/dataset.entity.js';
import { fetchColumns } from '../store/table-store.js';
import { Compute } from '../platform/compute/compute.service.js';
import { packOrigin, unpackOrigin, VersionOrigin } from '../store/origin.entity.js';
import { RESERVE_TASKS } from './reserve.tasks.js';

const SECONDS = 120;
/** Pairs of tables whose rows are remembered as matched: versions never change. */
const MOST_REMEMBERED = 16;

/** How the rows of two tables are recognised. */
interface MatchBy {
  readonly identifier: string | null;
  readonly targets: readonly string[];
}

/** Finds the rows of one version in another: by the raw row that both came from, or else by identifier and content. */
@Injectable()
export class SameRows {
  private readonly remembered = new Map<string, Promise<Int32Array>>();

  constructor(private readonly compute: Compute) {}

  /** For each row of a version the row of another one, or −1. */
  async between(
    db: EntityManager,
    ours: VersionRecord,
    theirs: VersionRecord,
    by: MatchBy,
  ): Promise<Int32Array> {
    const key = JSON.stringify([ours.id, theirs.id, by]);
    const known = this.remembered.get(key);
    if (known) return known;
    const found = this.find(db, ours, theirs, by);
    this.remembered.set(key, found);
    found.catch(() => this.remembered.delete(key));
    for (const oldest of this.remembered.keys()) {
      if (this.remembered.size <= MOST_REMEMBERED) break;
      this.remembered.delete(oldest);
    }
    return found;
  }

  private async find(
    db: EntityManager,
    ours: VersionRecord,
    theirs: VersionRecord,
    by: MatchBy,
  ): Promise<Int32Array> {
    if (ours.id === theirs.id) return Int32Array.from({ length: ours.rowCount }, (_, row) => row);
    const [own, other] = [await this.rawRows(db, ours), await this.rawRows(db, theirs)];
    const rawOf =
      own.raw.id === other.raw.id
        ? null
        : await this.compute.run(
            RESERVE_TASKS.matchRows,
            {
              stored: await fetchColumns(db, own.raw),
              onto: await fetchColumns(db, other.raw),
              ...by,
            },
            SECONDS,
          );
    const rowOf = new Int32Array(other.raw.rowCount).fill(-1);
    other.rows.forEach((raw, row) => (rowOf[raw] = row));
    return own.rows.map((raw) => rowOf[rawOf ? (rawOf[raw] ?? -1) : raw] ?? -1);
  }

  /** The raw table of a version, and for each row of the version its row there. */
  private async rawRows(
    db: EntityManager,
    version: VersionRecord,
  ): Promise<{ raw: VersionRecord; rows: Int32Array }> {
    if (version.baseId === null)
      return { raw: version, rows: Int32Array.from({ length: version.rowCount }, (_, row) => row) };
    const raw = await db.findOneByOrFail(VersionRecord, { id: version.baseId });
    const kept = await db.findOneBy(VersionOrigin, { versionId: version.id });
    if (kept) return { raw, rows: unpackOrigin(kept.origin) };
    // A version from before origins were kept: the steps are done again.
    const rows = await this.compute.run(
      RESERVE_TASKS.origins,
      { stored: await fetchColumns(db, raw), steps: version.steps },
      SECONDS,
    );
    await db
      .createQueryBuilder()
      .insert()
      .into(VersionOrigin)
      .values({ versionId: version.id, origin: packOrigin(rows) })
      .orIgnore()
      .execute();
    return { raw, rows };
  }
}
