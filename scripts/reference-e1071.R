# Makes core/proof/reference/testdata/e1071.json and soybean.json with R's e1071 and mlbench (Debian's r-cran-e1071,
# r-cran-mlbench, r-cran-jsonlite). Soybean: Michalski and Chilausky 1980, UCI Machine Learning Repository: 683 plants, 35
# characters, a tenth of the values missing, 19 diseases.
suppressMessages({library(e1071); library(mlbench); library(jsonlite)})
out <- commandArgs(trailingOnly = TRUE)[1]

# A whole fitted classifier, to compare number by number.
data(HouseVotes84)
fit <- naiveBayes(Class ~ ., data = HouseVotes84, laplace = 1)
rows <- HouseVotes84[1:80, -1]
write_json(list(
  made_by = unbox(paste("R", getRversion(), "e1071", packageVersion("e1071"), "naiveBayes(laplace = 1) on mlbench HouseVotes84")),
  prior = as.numeric(fit$apriori) / sum(fit$apriori),
  chances = unname(lapply(fit$tables, function(t) matrix(as.numeric(t), nrow = nrow(t)))),
  rows = unname(sapply(rows, function(v) ifelse(is.na(v), -1L, as.integer(v) - 1L))),
  proba = unname(predict(fit, rows, type = "raw"))
), file.path(out, "e1071.json"), digits = NA)

# Ten folds of Soybean, the same for both sides.
data(Soybean)
set.seed(1)
fold <- integer(nrow(Soybean))
for (cl in levels(Soybean$Class)) {
  at <- sample(which(Soybean$Class == cl))
  fold[at] <- rep_len(sample(10), length(at))
}
right <- 0
said <- integer(nrow(Soybean))
for (k in 1:10) {
  test <- fold == k
  train <- Soybean[!test, ]
  train[-1] <- lapply(train[-1], function(v) factor(as.character(v), levels = levels(v)))
  held <- Soybean[test, -1]
  held[] <- lapply(held, function(v) factor(as.character(v), levels = levels(v)))
  p <- predict(naiveBayes(Class ~ ., data = train, laplace = 1), held)
  said[test] <- as.integer(p) - 1L
}
write_json(list(
  made_by = unbox(paste("R", getRversion(), "e1071", packageVersion("e1071"), "mlbench", packageVersion("mlbench"))),
  classes = levels(Soybean$Class),
  states = as.integer(sapply(Soybean[-1], nlevels)),
  class = as.integer(Soybean$Class) - 1L,
  rows = unname(as.matrix(as.data.frame(lapply(Soybean[-1], function(v) ifelse(is.na(v), -1L, as.integer(v) - 1L))))),
  fold = fold,
  said = said,
  accuracy = unbox(mean(said == as.integer(Soybean$Class) - 1L))
), file.path(out, "soybean.json"), digits = NA)
