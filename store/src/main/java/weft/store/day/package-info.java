/** What came of the work since somebody last looked. Start at {@link weft.store.day.Days}. */
package weft.store.day;
