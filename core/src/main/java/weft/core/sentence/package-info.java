/**
 * Rules in plain English, written and read by one grammar: {@code SentenceWriter} and {@code SentenceReader} are each other's
 * inverse, and a sentence that would not read back is written with every name in backticks and every text in quotes. Nothing
 * else in Weft puts a rule into words. Start at {@link weft.core.sentence.Sentences}.
 */
package weft.core.sentence;
