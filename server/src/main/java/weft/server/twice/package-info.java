/** Papers keyed a second time by a door, and settled: {@link weft.server.twice.SecondKeyingApi}, {@link weft.server.twice.SettlingApi}. */
package weft.server.twice;
