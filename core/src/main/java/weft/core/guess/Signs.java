package weft.core.guess;

import weft.core.value.Conventions.DecimalSign;

/**
 * What the numbers of a column say of how they are written. The sign that is not before the decimals groups thousands.
 *
 * @param sign the sign before the decimals, as far as is known
 * @param ask whether that is not known: what groups thousands could as well stand before three decimals
 * @param pointScale the most decimals that there are if a point stands before them
 * @param commaScale the most decimals that there are if a comma does
 */
public record Signs(DecimalSign sign, boolean ask, int pointScale, int commaScale) {

    /** Of a column in which nothing is grouped. */
    public static final Signs PLAIN = new Signs(DecimalSign.POINT, false, 0, 0);

    private static final int MOST = 15;

    /** The same, when somebody has said which sign it is. */
    public Signs said(DecimalSign known) {
        return new Signs(known, false, pointScale, commaScale);
    }

    /** The most decimals of a number, up to the most that are kept. */
    public int scale() {
        return Math.min(MOST, sign == DecimalSign.POINT ? pointScale : commaScale);
    }
}
