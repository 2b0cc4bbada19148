# Logistic regressions on which iteration is hard: tables and hard.json. R 4.2, packages MASS and rpart (recommended).
library(MASS)
num <- function(x) paste0("[", paste(format(x, digits = 15, trim = TRUE), collapse = ","), "]")
one <- function(name, formula, data, weights = NULL) {
  data$.w <- if (is.null(weights)) rep(1, nrow(data)) else weights
  fit <- glm(formula, binomial, data, weights = .w, control = list(epsilon = 1e-14, maxit = 200))
  s <- summary(fit)$coefficients
  sprintf('"%s":{"deviance":%s,"estimate":%s,"se":%s}', name, format(deviance(fit), digits = 15), num(s[, 1]), num(s[, 2]))
}
# Two sexes of crabs by all five measures: overlapping, with log-odds beyond 36.
crabs$target <- ifelse(crabs$sex == "M", "yes", "no")
write.csv(crabs[, c("FL", "RW", "CL", "CW", "BD", "target")], "crabs.csv", row.names = FALSE, quote = FALSE)
crabs$y <- crabs$sex == "M"
# A skewed column: a few rows have log-odds far beyond the rest.
set.seed(1)
x <- signif(exp(rnorm(1000, 0, 1.5)), 6)
skew <- data.frame(x = x, y = runif(1000) < plogis(1.067 * (x - 1)))
skew$target <- ifelse(skew$y, "yes", "no")
write.csv(skew[, c("x", "target")], "skewed.csv", row.names = FALSE, quote = FALSE)
# Degrees Celsius, and Fahrenheit rounded to a millionth: two columns that nearly make each other up.
set.seed(2)
celsius <- round(runif(300, -5, 35), 4)
fahrenheit <- round(celsius * 1.8 + 32 + rnorm(300, 0, 1e-6), 7)
near <- data.frame(celsius, fahrenheit, y = runif(300) < plogis((celsius - 15) / 6))
near$target <- ifelse(near$y, "yes", "no")
write.csv(format(near[, c("celsius", "fahrenheit", "target")], digits = 15, trim = TRUE), "near.csv", row.names = FALSE, quote = FALSE)
# Quasi-separated: the rows of level c are all positive, the others overlap.
set.seed(3)
level <- sample(c("a", "b", "c"), 200, TRUE)
z <- round(rnorm(200), 4)
quasi <- data.frame(level, z, y = ifelse(level == "c", TRUE, runif(200) < plogis(z)))
quasi$target <- ifelse(quasi$y, "yes", "no")
write.csv(quasi[, c("level", "z", "target")], "quasi.csv", row.names = FALSE, quote = FALSE)
limit <- glm(y ~ level + z, binomial, quasi[quasi$level != "c", ], control = list(epsilon = 1e-14, maxit = 200))
# Backward elimination by Akaike's criterion, with step: mtcars, automatic against manual.
m <- mtcars; m$target <- ifelse(m$vs == 1, "yes", "no")
write.csv(m[, c("mpg", "disp", "hp", "drat", "wt", "qsec", "am", "gear", "carb", "target")], "mtcars.csv", row.names = FALSE, quote = FALSE)
linear <- step(lm(mpg ~ disp + hp + drat + wt + qsec + am + gear + carb, m), trace = 0)
writeLines(paste0("{", paste(
  one("crabs", y ~ FL + RW + CL + CW + BD, crabs),
  one("skewed", y ~ x, skew),
  one("near", y ~ celsius + fahrenheit, near),
  sprintf('"quasi":{"deviance":%s}', format(deviance(limit), digits = 15)),
  sprintf('"step":{"kept":["%s"]}', paste(attr(terms(linear), "term.labels"), collapse = '","')),
  sep = ","), "}"), "hard.json")
