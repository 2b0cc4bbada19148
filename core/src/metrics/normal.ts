/** 97.5 % quantile of the standard normal distribution, for two-sided 95 % intervals (R 4.2, qnorm(0.975)). */
export const Z95 = 1.959963984540054;
