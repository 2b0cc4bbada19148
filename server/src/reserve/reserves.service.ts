import type { Roles } from '@modest-sieve/core/data';
import { FINAL, FEEDBACK } from '@modest-sieve/core/assessment';
import { Injectable } from '@nestjs/common';
import { In, type EntityManager } from 'typeorm';
import { RolesRecord, VersionRecord } from '../store/dataset.entity.js';
import { fetchColumns } from '../store/table-store.js';
import type { StoredTable } from '../store/stored-table.js';
import { SplitAssignment, SplitRecord } from '../store/split.entity.js';
import { ReleaseRecord } from './release.entity.js';
import { SameRows } from './same-rows.service.js';

/** Releases on other data sets that are compared at most, the latest first. */
const MOST_OTHERS = 20;
/** Columns that another table must share for its rows to be looked at. */
const FEWEST_COMMON = 2;

/** What the releases on a data set say of the rows of one version. */
export interface Reserve {
  /** 1 for each row that a release holds out. */
  readonly held: Uint8Array;
  /** What each of them is for; 0 for a row that is not divided, or not held. */
  readonly division: Uint8Array;
  /** 1 for each row whose target some release gave to students. */
  readonly given: Uint8Array;
  readonly releases: readonly ReleaseRecord[];
}

/** An earlier release with its rows among those of another version; `version` names its table. */
export interface ReleasedBefore {
  readonly title: string;
  readonly sameDataSet: boolean;
  readonly returned: boolean;
  readonly roles: Roles;
  readonly parts: Int8Array;
  readonly division: Uint8Array;
  readonly rows: Int32Array;
  readonly version: string;
}

/** Reads what was ever given to students, and what is held out for good. */
@Injectable()
export class Reserves {
  constructor(private readonly sameRows: SameRows) {}

  /** The reserve of a data set as it is on one of its versions. */
  async of(db: EntityManager, version: VersionRecord, roles: Roles): Promise<Reserve> {
    const releases = await db.find(ReleaseRecord, {
      where: { dataSetId: version.dataSetId },
      order: { releasedAt: 'ASC', id: 'ASC' },
    });
    const n = version.rowCount;
    const held = new Uint8Array(n);
    const division = new Uint8Array(n);
    const given = new Uint8Array(n);
    for (const before of await this.before(db, releases, version, roles)) {
      const { target, weight, withheld } = before.roles;
      const inFeatures =
        roles.target !== target && roles.target !== weight && !withheld.includes(roles.target);
      before.rows.forEach((row, own) => {
        const part = row < 0 ? -1 : before.parts[row];
        if (part === 2) {
          held[own] = 1;
          // What a row is for never changes: the first release that divided it decides.
          if (division[own] === 0) division[own] = before.division[row] ?? 0;
          if (inFeatures) given[own] = 1;
        } else if (part === 0 || part === 1) {
          if (!withheld.includes(roles.target)) given[own] = 1;
        }
      });
    }
    return { held, division, given, releases };
  }

  /**
   * The releases that may share rows with an exercise: all on its data set, and those of the courses that its maker
   * teaches whose tables have columns in common with it.
   */
  async releasedBefore(
    db: EntityManager,
    version: VersionRecord,
    roles: Roles,
    maker: string | null,
  ): Promise<{ earlier: ReleasedBefore[]; tables: Record<string, StoredTable> }> {
    const own = await db.find(ReleaseRecord, { where: { dataSetId: version.dataSetId } });
    const others = await this.ofOtherDataSets(db, version, maker);
    const earlier: ReleasedBefore[] = [];
    const tables: Record<string, StoredTable> = {};
    for (const before of await this.before(db, [...own, ...others], version, roles)) {
      if (!before.rows.some((row) => row >= 0)) continue;
      earlier.push(before);
      if (before.version === version.id || tables[before.version]) continue;
      const theirs = await db.findOneByOrFail(VersionRecord, { id: before.version });
      tables[before.version] = await fetchColumns(db, theirs);
    }
    return { earlier, tables };
  }

  private async ofOtherDataSets(
    db: EntityManager,
    version: VersionRecord,
    maker: string | null,
  ): Promise<ReleaseRecord[]> {
    if (maker === null) return [];
    const names = version.profile.map(({ name }) => name);
    const found: { id: string }[] = await db.query(
      `SELECT r.id FROM vault.release r JOIN data_set d ON d.id = r.data_set_id
         JOIN membership m ON m.course_id = d.course_id AND m.person_id = $1 AND m.role = 'instructor'
         JOIN split s ON s.id = r.split_id JOIN data_set_version v ON v.id = s.version_id
        WHERE r.data_set_id <> $2
          AND (SELECT count(*) FROM jsonb_array_elements(v.profile) c WHERE c ->> 'name' = ANY ($3)) >= ${FEWEST_COMMON}
        ORDER BY r.released_at DESC LIMIT ${MOST_OTHERS}`,
      [maker, version.dataSetId, names],
    );
    return db.findBy(ReleaseRecord, { id: In(found.map(({ id }) => id)) });
  }

  /** Releases as they lie on a version, in their order; what they stand on is read at once, however many they are. */
  private async before(
    db: EntityManager,
    releases: readonly ReleaseRecord[],
    version: VersionRecord,
    roles: Roles,
  ): Promise<ReleasedBefore[]> {
    if (releases.length === 0) return [];
    const splitIds = In(releases.map(({ splitId }) => splitId));
    const splits = await db.findBy(SplitRecord, { id: splitIds });
    const ofSplit = byId(splits);
    const rolesOf = byId(await db.findBy(RolesRecord, { id: In(splits.map(({ rolesId }) => rolesId)) }));
    const versionOf = byId(
      await db.findBy(VersionRecord, { id: In(splits.map(({ versionId }) => versionId)) }),
    );
    const assigned = await db.findBy(SplitAssignment, { splitId: splitIds });
    const partsOf = new Map(assigned.map(({ splitId, parts }) => [splitId, parts]));
    const returned: { id: string }[] = await db.query(
      `SELECT id FROM exercise WHERE id = ANY ($1) AND returned_at IS NOT NULL`,
      [releases.map(({ exerciseId }) => exerciseId)],
    );
    const isReturned = new Set(returned.map(({ id }) => id));
    const found: ReleasedBefore[] = [];
    for (const release of releases) {
      const split = known(ofSplit, release.splitId);
      const { roles: theirRoles } = known(rolesOf, split.rolesId);
      const theirs = known(versionOf, split.versionId);
      const identifier = roles.identifier === theirRoles.identifier ? roles.identifier : null;
      const rows = await this.sameRows.between(db, version, theirs, {
        identifier,
        targets: [...new Set([roles.target, theirRoles.target])].sort(),
      });
      found.push({
        title: release.title,
        sameDataSet: release.dataSetId === version.dataSetId,
        returned: release.exerciseId !== null && isReturned.has(release.exerciseId),
        roles: theirRoles,
        parts: new Int8Array(known(partsOf, release.splitId)),
        division: new Uint8Array(release.division),
        rows,
        version: theirs.id,
      });
    }
    return found;
  }
}

const byId = <T extends { readonly id: string }>(records: readonly T[]): Map<string, T> =>
  new Map(records.map((record) => [record.id, record]));

/** What a release stands on is never deleted before it. */
function known<T>(records: ReadonlyMap<string, T>, id: string): T {
  const found = records.get(id);
  if (found === undefined) throw new Error('a release stands on a split that is gone');
  return found;
}

/** How many rows of a reserve are for what. */
export const reserveCounts = ({ held, division }: Pick<Reserve, 'held' | 'division'>) => {
  const count = (of: (row: number) => boolean) => Array.from(held.keys()).filter(of).length;
  return {
    rows: count((row) => held[row] === 1),
    feedback: count((row) => held[row] === 1 && division[row] === FEEDBACK),
    final: count((row) => held[row] === 1 && division[row] === FINAL),
  };
};
