/** The lock under which crews stand still while showers are counted: shared by those who count, whole for whoever merges crews. SQL. */
export const CREWS_LOCK = "hashtext('careful-seam crews')";
