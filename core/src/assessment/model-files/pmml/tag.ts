/** An element as text. */
export const tag = (
  name: string,
  attributes: Readonly<Record<string, string | number | undefined>>,
  children: readonly string[] = [],
): string => {
  const written = Object.entries(attributes).flatMap(([key, value]) =>
    value === undefined ? [] : [` ${key}="${escaped(String(value))}"`],
  );
  const open = `<${name}${written.join('')}`;
  return children.length === 0 ? `${open}/>` : `${open}>${children.join('\n')}</${name}>`;
};

/** Text as content or as the value of an attribute. */
export const escaped = (text: string): string =>
  text.replace(/[&<>"\n\t\r]/g, (sign) => `&#${sign.charCodeAt(0)};`);
