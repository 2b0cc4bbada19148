export const FEEDBACK_POLICIES = ['after-return', 'rounded', 'only-when-better', 'everything'] as const;
/** What students see of their scores while an exercise is open. */
export type FeedbackPolicy = (typeof FEEDBACK_POLICIES)[number];
