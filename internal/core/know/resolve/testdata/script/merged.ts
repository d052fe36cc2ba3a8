class Slope { angle = 1 } // @def Slope @def angle:slope
namespace Slope { // what shares the name of a class
	export const steepest = new Slope() // @def steepest:slope
}
export const steep = Slope.steepest.angle // @use steepest:slope @use angle:slope
