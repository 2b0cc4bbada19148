/** A setting of a method of splitting or of making folds, and what the command line says of it. */
export interface Setting {
  readonly type: 'column' | 'text' | 'number' | 'choice';
  /** The values of a choice. */
  readonly choices?: readonly string[];
  /** Its option where that is not its key. */
  readonly flag?: string;
  /** What stands for its value in the help, where that is not its type. */
  readonly value?: string;
  readonly text: string;
}

/** Values of settings, all of which may be left out. */
export type SettingsOf<S extends Record<string, Setting>> = {
  readonly [K in keyof S]?: S[K] extends { readonly choices: readonly (infer V extends string)[] }
    ? V
    : S[K]['type'] extends 'number'
      ? number
      : string;
};

/** A method that settings can choose. */
interface Choosable<K> {
  readonly name: string;
  readonly chosenBy: readonly K[] | null;
}

/**
 * The method that fits the settings given: of those whose settings are all there, the last one in the list, as later ones
 * are more particular.
 */
export function methodFor<K extends string, M extends Choosable<K>>(
  methods: readonly M[],
  settings: Readonly<Partial<Record<K, unknown>>>,
): M | undefined {
  return methods.findLast(({ chosenBy }) => chosenBy?.every((key) => settings[key] !== undefined));
}
