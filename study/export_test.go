package study

// What tests look at within.
var (
	StepOf        = stepOf
	SnapshotLasts = snapshotLasts
)
