export const FEEDBACK_POLICIES = ['after-return', 'rounded', 'only-when-better', 'everything'] as const;
/** What students see of their scores while an exercise is open. */
export type FeedbackPolicy = (typeof FEEDBACK_POLICIES)[number];

export const SLIP_POLICIES = ['never', 'after-attempt', 'after-return'] as const;
/** When students read of the known mistakes behind what is wrong. */
export type SlipPolicy = (typeof SLIP_POLICIES)[number];
