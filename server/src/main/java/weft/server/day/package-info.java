/** What a coordinator starts the day with, as a page and by mail: {@link weft.server.day.DayApi}, {@link weft.server.day.MorningMail}. */
package weft.server.day;
