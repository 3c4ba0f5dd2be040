package people

// OurPath is what it is within.
var OurPath = ourPath
