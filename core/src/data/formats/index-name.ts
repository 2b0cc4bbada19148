/** What a first column without a name is called: statistics programs write the names or numbers of rows so. */
export function indexName(names: readonly string[]): string {
  const name = 'index';
  for (let i = 1; ; i++) {
    const own = i === 1 ? name : `${name}_${i}`;
    if (!names.includes(own)) return own;
  }
}

/** The remark on such a column. */
export const indexRemark = (file: string, line: number, name: string): string =>
  `${file}, line ${line}: column 1 has no name; it is called “${name}”.`;
