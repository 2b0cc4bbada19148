import { methodFor, type Setting } from '@modest-sieve/core/splitting';
import { Option, type Command } from 'commander';
import { numberOption, usage } from './command.js';

type Settings = Readonly<Record<string, Setting>>;
/** What commander makes of the options, by their names in camel case. */
type Given = Readonly<Record<string, unknown>>;

/** A key as an option has it: `cutOff` is `cut-off`. */
const dashed = (key: string): string => key.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`);

/** Adds an option for `--method`, and one for each setting. */
export function addSettings(
  command: Command,
  methods: readonly { readonly name: string }[],
  settings: Settings,
): Command {
  command.option(
    '--method <name>',
    `one of ${methods.map(({ name }) => name).join(', ')}; follows from the other options where it is left out`,
  );
  for (const [key, { type, flag, value, choices, text }] of Object.entries(settings)) {
    const name = flag ?? dashed(key);
    const option = `--${name} <${type === 'number' ? 'n' : (choices?.join('|') ?? value ?? type)}>`;
    if (type === 'number') command.option(option, text, numberOption(name));
    else if (choices) command.addOption(new Option(option, text).choices(choices));
    else command.option(option, text);
  }
  return command;
}

/**
 * The method that is named, or that the other options choose, and the settings that were given.
 *
 * @throws SieveError `usage` for a method that is not there
 */
export function settingsOf<K extends string>(
  given: Given,
  methods: readonly { readonly name: string; readonly chosenBy: readonly K[] | null }[],
  settings: Readonly<Record<K, Setting>>,
): { method: string } & Partial<Record<K, never>> {
  const found = Object.fromEntries(
    Object.entries<Setting>(settings)
      .map(([key, { flag }]) => [key, given[flag ?? key]])
      .filter(([, value]) => value !== undefined),
  ) as Partial<Record<K, never>>;
  const named = given.method;
  const method = named === undefined ? methodFor(methods, found) : methods.find(({ name }) => name === named);
  if (!method)
    throw usage(
      `There is no method “${String(named)}”; there are ${methods.map(({ name }) => name).join(', ')}.`,
      'method',
    );
  return { ...found, method: method.name };
}
