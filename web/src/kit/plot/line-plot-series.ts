export interface PlotPoint {
  readonly x: number;
  readonly y: number;
  /** Half the width of its interval. */
  readonly error?: number;
}

export interface PlotSeries {
  readonly name: string;
  readonly points: readonly PlotPoint[];
  /** A colour of the theme. */
  readonly colour: string;
  readonly dash?: string;
  /** Whether points are marked, or steps are drawn. */
  readonly dots?: boolean;
  readonly step?: boolean;
}

interface AxisOptions {
  readonly title: string;
  readonly domain?: readonly [number, number];
  readonly ticks?: readonly number[];
  /** What a value can be at least and at most. */
  readonly bounds?: readonly [number | null, number | null];
  readonly text?: (value: number) => string;
}

export interface LinePlotProps {
  readonly label: string;
  readonly series: readonly PlotSeries[];
  /** Thin lines behind the others, which are not named one by one. */
  readonly behind?: { readonly name: string; readonly lines: readonly (readonly PlotPoint[])[] };
  readonly x: AxisOptions;
  readonly y: AxisOptions;
  readonly areas?: readonly { readonly from: number; readonly to: number; readonly text: string }[];
  readonly marks?: readonly { readonly x: number; readonly y: number; readonly text: string }[];
  readonly lines?: readonly { readonly y: number; readonly text: string }[];
  /** From one corner to the other: what chance, or a perfect fit, would give. */
  readonly diagonal?: boolean;
  readonly height?: number;
}

export const colourOf = (name: string): string =>
  `var(--chakra-colors-${name.replaceAll(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`)})`;
