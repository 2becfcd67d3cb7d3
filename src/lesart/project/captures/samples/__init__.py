"""Numbers one after the other, without a word: sound, arrays, bare bytes."""
