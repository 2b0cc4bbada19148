import type { RowSelection } from '@modest-sieve/core/data';
import { Injectable } from '@nestjs/common';
import type {
  ColumnPair,
  Correlations,
  RowPage,
  TableFindings,
  TargetByValue,
  TargetSuggestion,
} from '../api/api.js';
import type { Caller } from '../platform/access/access.js';
import { Compute, within } from '../platform/compute/compute.service.js';
import { DataSets } from './datasets.service.js';
import { fetchColumns } from '../store/table-store.js';
import type { VersionAddress } from '../store/version-address.js';
import { LOOK_TASKS } from './look.tasks.js';

/** Time that a question about a table may compute, in seconds. */
const SECONDS = 30;
/** The same, where all columns are looked at together. */
const LOOK_SECONDS = 120;

/** What a look at a version of a data set shows. */
@Injectable()
export class Looks {
  constructor(
    private readonly dataSets: DataSets,
    private readonly compute: Compute,
  ) {}

  /** Some rows as texts. A selection is drawn over the whole table; without one only the chunks of the rows are read. */
  async rows(
    caller: Caller,
    at: VersionAddress,
    { offset, limit }: { readonly offset: number; readonly limit: number },
    selection: RowSelection,
  ): Promise<RowPage> {
    const { version } = await this.dataSets.version(caller, at);
    const columns = version.profile.map((column) => column.name);
    if (selection.where !== null || selection.sort !== null) {
      const stored = await fetchColumns(caller.db, version);
      const page = await this.compute.run(
        LOOK_TASKS.selectedRows,
        { stored, selection, offset, limit },
        within(caller, SECONDS),
      );
      return { columns, offset, ...page };
    }
    const [from, to] = [Math.min(offset, version.rowCount), Math.min(offset + limit, version.rowCount)];
    const stored = await fetchColumns(caller.db, version, { rows: [from, to] });
    const page = await this.compute.run(LOOK_TASKS.rows, { stored, from, to }, SECONDS);
    return { columns, offset, total: version.rowCount, ...page };
  }

  async findings(caller: Caller, at: VersionAddress): Promise<TableFindings> {
    const { version, roles } = await this.dataSets.version(caller, at);
    const stored = await fetchColumns(caller.db, version);
    const { profile } = version;
    return this.compute.run(
      LOOK_TASKS.findings,
      { stored, roles: roles?.roles ?? null, profile },
      within(caller, LOOK_SECONDS),
    );
  }

  /** The target's rate or mean by the values of a column; none before the target is marked. */
  async byValue(caller: Caller, at: VersionAddress, column: string): Promise<TargetByValue> {
    const { version, roles } = await this.dataSets.version(caller, at);
    const isText = version.profile.some(({ name, kind }) => name === column && kind === 'text');
    if (!roles || roles.roles.target === column || isText) return { label: null, values: [], more: 0 };
    const stored = await fetchColumns(caller.db, version, { columns: [column, roles.roles.target] });
    return this.compute.run(LOOK_TASKS.byValue, { stored, roles: roles.roles, column }, SECONDS);
  }

  /** Two columns looked at together. */
  async pair(caller: Caller, at: VersionAddress, x: string, y: string): Promise<ColumnPair> {
    const { version, roles } = await this.dataSets.version(caller, at);
    const names = [x, y, ...(roles ? [roles.roles.target] : [])];
    const stored = await fetchColumns(caller.db, version, { columns: names });
    return this.compute.run(
      LOOK_TASKS.pair,
      { stored, roles: roles?.roles ?? null, x, y },
      within(caller, SECONDS),
    );
  }

  async correlations(
    caller: Caller,
    at: VersionAddress,
    measure: 'Pearson' | 'Spearman',
  ): Promise<Correlations> {
    const { version } = await this.dataSets.version(caller, at);
    const columns = version.profile.filter(({ kind }) => kind === 'number').map(({ name }) => name);
    const stored = await fetchColumns(caller.db, version, { columns });
    return this.compute.run(LOOK_TASKS.correlations, { stored, measure }, within(caller, LOOK_SECONDS));
  }

  /** What a column suggests if it were the target. */
  async suggest(caller: Caller, at: VersionAddress, target: string): Promise<TargetSuggestion> {
    const { version } = await this.dataSets.version(caller, at);
    const stored = await fetchColumns(caller.db, version, { columns: [target] });
    return this.compute.run(LOOK_TASKS.suggest, { stored, target }, SECONDS);
  }
}
