# Makes stems.tsv with libstemmer, Snowball's own, as Debian ships it (python3-stemmer):
# every twentieth of the commonest words of each language, with its stem.
import Stemmer
names = dict(en="english", de="german", fr="french", es="spanish", it="italian", nl="dutch", pt="portuguese", sv="swedish")
print("# libstemmer", Stemmer.version())
for code, name in names.items():
    stem = Stemmer.Stemmer(name).stemWord
    words = open(f"../../lexicon/data/common/{code}.txt", encoding="utf-8").read().split()[:10000:20]
    for w in words:
        print(code, w, stem(w), sep="\t")
