/**
 * What comes after an entry is saved, or of a button: {@link weft.core.entry.step.StepRun} goes through the steps and says
 * what they come to. Nothing is written here; {@link weft.core.entry.step.Write} says what is to be.
 */
package weft.core.entry.step;
