# Honest splits and folds as R makes them: honest-r.json. Run after honest.py with R 4.2 and caret (Debian r-cran-caret),
# rpart and glmnet. `createDataPartition` and `createFolds` round each class by itself.
library(caret); library(rpart); library(glmnet)
quote_all <- function(x) paste0("[", paste(x, collapse = ","), "]")
rows_of <- function(kind, asks, v) sprintf('["%s","%s",%s]', kind, asks, quote_all(v))
all <- c()
for (name in c("binary", "multiclass", "regression")) {
  d <- read.csv(paste0(name, ".csv"))
  if (name != "regression") d$target <- factor(d$target)
  n <- nrow(d)
  splits <- folds <- predictions <- c()
  for (seed in 1:12) {
    set.seed(seed)
    plain <- rep(1, n); plain[sample(n, round(0.8 * n))] <- 0
    splits <- c(splits, rows_of("sample", "", plain))
    part <- rep(1, n); part[createDataPartition(d$target, p = 0.8, list = FALSE)] <- 0
    splits <- c(splits, rows_of("createDataPartition", "stratify", part))
    folds <- c(folds, rows_of("sample of repeated numbers", "", sample(rep(1:5, length.out = n))))
    folds <- c(folds, rows_of("createFolds", "stratify", createFolds(d$target, k = 5, list = FALSE)))
    folds <- c(folds, rows_of("groupKFold", "group", {
      f <- rep(0, n); out <- groupKFold(d$group, k = 5)
      for (i in seq_along(out)) f[-out[[i]]] <- i
      f
    }))
  }
  x <- as.matrix(d[, grep("^x", names(d))])
  set.seed(1)
  fold <- createFolds(d$target, k = 5, list = FALSE)
  tree <- penalised <- glm_ <- NULL
  levels_n <- if (name == "regression") 1 else nlevels(d$target)
  grid <- function() matrix(0, n, levels_n)
  tree <- grid(); penalised <- grid(); plain <- grid()
  for (i in 1:5) {
    train <- fold != i
    frame <- d[, c(grep("^x", names(d), value = TRUE), "target")]
    m <- rpart(target ~ ., frame[train, ], control = rpart.control(cp = 0, maxdepth = 4, minsplit = 2, minbucket = 1, xval = 0))
    tree[!train, ] <- predict(m, frame[!train, ])
    family <- c(binary = "binomial", multiclass = "multinomial", regression = "gaussian")[[name]]
    g <- glmnet(x[train, ], d$target[train], family = family)
    p <- predict(g, x[!train, ], s = min(g$lambda), type = "response")
    if (name == "binary") penalised[!train, ] <- cbind(1 - p, p)
    else if (name == "multiclass") penalised[!train, ] <- p[, , 1]
    else penalised[!train, ] <- p
    if (name == "binary") { q <- predict(glm(target ~ ., binomial, frame[train, ]), frame[!train, ], type = "response"); plain[!train, ] <- cbind(1 - q, q) }
    if (name == "regression") plain[!train, ] <- predict(lm(target ~ ., frame[train, ]), frame[!train, ])
  }
  as_json <- function(m) if (levels_n == 1) quote_all(round(m[, 1], 4)) else quote_all(apply(round(m, 4), 1, quote_all))
  one <- function(family, what, m) sprintf('{"family":"%s","model":"%s","fold":%s,"predicted":%s}', family, what, quote_all(fold), as_json(m))
  predictions <- c(one("tree", "rpart", tree), one(if (name == "regression") "linear" else "logistic", "glmnet, smallest penalty", penalised))
  if (name != "multiclass") predictions <- c(predictions, one(if (name == "regression") "linear" else "logistic", "glm", plain))
  all <- c(all, sprintf('"%s":{"splits":[%s],"folds":[%s],"predictions":[%s]}', name, paste(splits, collapse = ","), paste(folds, collapse = ","), paste(predictions, collapse = ",")))
}
writeLines(paste0("{", paste(all, collapse = ","), "}"), "honest-r.json")
