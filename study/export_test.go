package study

// StepOf is stepOf.
var StepOf = stepOf
