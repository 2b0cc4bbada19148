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
    for (const release of releases) {
      const before = await this.before(db, release, version, roles);
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
    for (const release of [...own, ...others]) {
      const before = await this.before(db, release, version, roles);
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

  private async before(
    db: EntityManager,
    release: ReleaseRecord,
    version: VersionRecord,
    roles: Roles,
  ): Promise<ReleasedBefore> {
    const split = await db.findOneByOrFail(SplitRecord, { id: release.splitId });
    const { roles: theirRoles } = await db.findOneByOrFail(RolesRecord, { id: split.rolesId });
    const theirs = await db.findOneByOrFail(VersionRecord, { id: split.versionId });
    const { parts } = await db.findOneByOrFail(SplitAssignment, { splitId: release.splitId });
    const [state]: { returned: boolean }[] = await db.query(
      `SELECT returned_at IS NOT NULL AS returned FROM exercise WHERE id = $1`,
      [release.exerciseId],
    );
    const identifier = roles.identifier === theirRoles.identifier ? roles.identifier : null;
    const rows = await this.sameRows.between(db, version, theirs, {
      identifier,
      targets: [...new Set([roles.target, theirRoles.target])].sort(),
    });
    return {
      title: release.title,
      sameDataSet: release.dataSetId === version.dataSetId,
      returned: state?.returned ?? false,
      roles: theirRoles,
      parts: new Int8Array(parts),
      division: new Uint8Array(release.division),
      rows,
      version: theirs.id,
    };
  }
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
