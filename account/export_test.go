package account

// StepOf is what it is within.
var StepOf = stepOf
