import type { DataSetDetail, DataSetList, VersionInfo } from '../api/api.js';
import type { Caller } from '../platform/access/access.js';

/** The data sets of a course by their current versions. */
export const dataSetLines = (caller: Caller): Promise<DataSetList['dataSets']> =>
  caller.db.query(
    `SELECT d.id, d.name, v.row_count AS rows, jsonb_array_length(v.profile) AS columns,
            (SELECT r.roles ->> 'target' FROM column_roles r WHERE r.version_id = v.id ORDER BY r.revision DESC LIMIT 1) AS target,
            (SELECT count(*)::int FROM split s WHERE s.version_id = v.id) AS splits,
            d.created_at AS "createdAt"
       FROM data_set d
       JOIN LATERAL (SELECT * FROM data_set_version WHERE data_set_id = d.id
                      ORDER BY (number = d.current_number) IS TRUE DESC, number DESC LIMIT 1) v ON true
      WHERE d.course_id = $1 ORDER BY d.created_at, d.id`,
    [caller.courseId],
  );

/** Imports that wait, or that failed. */
export const openImports = (caller: Caller): Promise<DataSetList['imports']> =>
  caller.db.query(
    `SELECT id, file_name AS "fileName", into_id AS "intoId", state, problem FROM import
      WHERE course_id = $1 AND state <> 'done' ORDER BY created_at`,
    [caller.courseId],
  );

/** Exercises that use a split of a version. */
export const exercisesOn = (caller: Caller, versionId: string): Promise<DataSetDetail['exercises']> =>
  caller.db.query(
    `SELECT e.id, e.title, e.split_id AS "splitId", e.state FROM exercise e JOIN split s ON s.id = e.split_id
      WHERE s.version_id = $1 ORDER BY e.created_at`,
    [versionId],
  );

/** The versions of a data set, the newest first. */
export const versionLines = (caller: Caller, dataSetId: string): Promise<Omit<VersionInfo, 'removal'>[]> =>
  caller.db.query(
    `SELECT v.number, v.row_count AS rows, b.number AS "from", v.steps,
            jsonb_path_query_array(v.profile, '$[*].name') AS columns, v.created_at AS "createdAt",
            (SELECT min(o.number) FROM data_set_version o
              WHERE o.data_set_id = v.data_set_id AND o.number < v.number
                AND (o.file_sha256, o.steps, o.profile) = (v.file_sha256, v.steps, v.profile)) AS "sameAs"
       FROM data_set_version v LEFT JOIN data_set_version b ON b.id = v.base_id
      WHERE v.data_set_id = $1 ORDER BY v.number DESC`,
    [dataSetId],
  );
