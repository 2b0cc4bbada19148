/** Why a model says what it says of one row. */
export type Explanation =
  | {
      readonly kind: 'path';
      /** Of a tree: what holds of the row at every node on its way, from the root. */
      readonly conditions: readonly string[];
      /** Training rows that ended where it ends, or the sum of their weights. */
      readonly rows: number;
    }
  | {
      readonly kind: 'contributions';
      /** What is added up: the predicted value, or the log-odds of one label against another, by their places. */
      readonly of: 'value' | { readonly label: number; readonly against: number };
      /** For a row whose cells are all missing, and so filled with what is most common. */
      readonly typical: number;
      /** What each feature adds to that; together they make what is said of the row. */
      readonly parts: readonly { readonly feature: string; readonly amount: number }[];
    }
  | {
      readonly kind: 'spread';
      /** Models that are averaged: what they say, one by one. */
      readonly models: number;
      /** From one in twenty to nineteen in twenty of them; half of them lie between the quartiles. */
      readonly low: number;
      readonly lowerQuartile: number;
      readonly upperQuartile: number;
      readonly high: number;
    };
