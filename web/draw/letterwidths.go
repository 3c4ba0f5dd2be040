package draw

// asciiWidths are the widths of the letters from the space to the tilde of
// Atkinson Hyperlegible Next at 11 pixels, measured in Chromium.
var asciiWidths = [...]float64{
	3.1, 3.1, 3.3, 7.2, 6.5, 10.1, 8, 1.8, 3.3, 3.3, 5.3, 6.7, 2.3, 4, 2.3, 4.3, // space to /
	7.1, 4.5, 6, 6.3, 6.8, 6.5, 6.6, 5.6, 6.8, 6.5, 2.3, 2.3, 6.1, 6.9, 6.1, 5.3, // 0 to ?
	8.6, 6.9, 6.7, 7.1, 7.4, 6.3, 6.1, 7.6, 7.6, 4.3, 5.6, 6.9, 6, 9.1, 7.6, 7.9, // @ to O
	6.5, 8, 6.8, 6.5, 6.1, 7.6, 6.5, 9.4, 6.9, 6.3, 6.7, 3.5, 4.3, 3.8, 6.1, 4.1, // P to _
	2.7, 5.8, 6.2, 5.3, 6.2, 5.9, 3.5, 6.1, 6, 2.8, 2.7, 5.4, 2.9, 9.3, 6, 6, // ` to o
	6.2, 6.3, 3.8, 5.2, 3.6, 5.9, 5.1, 7.5, 5.3, 4.9, 5.1, 3.8, 2.6, 3.8, 6.1, // p to ~
}

// letterWidth is the width of a letter in pixels of small type. Others than the
// measured are taken for as wide as wide ones of their script are.
func letterWidth(r rune) float64 {
	switch {
	case r >= ' ' && r <= '~':
		return asciiWidths[r-' ']
	case r == '…':
		return 7.4
	case r >= 0x1100: // Hangul, Chinese, Japanese
		return 11
	}
	return 7.6
}
