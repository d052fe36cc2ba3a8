package index

// Extracted stands for what the extractors make of the samples of all languages, of
// those for look-ups and of the demo project. An index that was made by others
// would be stale without a word, so it is part of the name of a store. A test
// fails if it is not right, and writes it with -update.
const Extracted = "409f36009f"
