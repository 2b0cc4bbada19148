# The lasso path of 100 penalties with 10 folds on 10,000 x 100, with R's glmnet: the whole process counts.
suppressMessages(library(glmnet))
set.seed(0)
x <- matrix(rnorm(1e6), 10000)
y <- as.numeric(x[, 1:10] %*% (0:9 %% 3 - 0.7) + 2 * rnorm(10000))
f <- cv.glmnet(x, y, nfolds = 10)
