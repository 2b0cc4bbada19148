/** Where an exercise is composed on a split. */
export const composerAddress = (courseId: string, dataSet: string, splitId: string): string =>
  `/courses/${courseId}/exercises/new?dataSet=${dataSet}&split=${splitId}`;
