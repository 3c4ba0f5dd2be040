# Makes reference.tsv with NLTK, scikit-learn and SciPy as Debian ships them
# (python3-nltk, python3-sklearn, python3-scipy): python3 reference.py > reference.tsv
import nltk, numpy, scipy.stats, sklearn
from nltk.metrics import BigramAssocMeasures as measures
from sklearn.feature_extraction.text import TfidfTransformer

print(f"# NLTK {nltk.__version__}, scikit-learn {sklearn.__version__}, SciPy {scipy.__version__}")
# Occurrences in two corpora of c and d words; NLTK's measure takes the marginals of
# the table of word against corpus: n11 = a, (a + b, c), c + d.
for a, b, c, d in [(10, 5, 1000, 2000), (23, 40, 9000, 10_000_000), (3, 1, 5000, 10_000_000), (50, 60, 9000, 11000), (7, 0, 2000, 7000)]:
    print("g2", a, b, c, d, measures.likelihood_ratio(a, (a + b, c), c + d), sep="\t")
for table in [(4, 0, 0, 4), (3, 1, 1, 3), (3, 0, 0, 7), (2, 1, 1, 6), (3, 0, 4, 3), (5, 2, 9, 14)]:
    a, b, c, d = table
    print("fisher", *table, scipy.stats.fisher_exact([[a, b], [c, d]])[1], sep="\t")
counts = numpy.array([[3, 0, 1], [2, 0, 0], [3, 0, 0], [4, 0, 0], [3, 2, 0], [3, 0, 2]])
idf = TfidfTransformer(smooth_idf=True).fit(counts).idf_
for n, value in zip((counts > 0).sum(axis=0), idf):
    print("idf", len(counts), n, 0, 0, value, sep="\t")
