using System.Linq.Expressions;
using System.Reflection;
using Microsoft.EntityFrameworkCore.Metadata;

namespace Uncial.Data.Storage;

/// <summary>Copies rows column by column, as EF Core's model names them. Navigations of the copy are empty.</summary>
/// <typeparam name="T">The entity, whose columns all have properties.</typeparam>
internal static class RowCopy<T>
    where T : class
{
    private static Func<T, T>? copy;

    public static T Of(T row, IModel model) => (copy ??= Make(model))(row);

    private static Func<T, T> Make(IModel model)
    {
        var row = Expression.Parameter(typeof(T));
        return Expression
            .Lambda<Func<T, T>>(
                Expression.MemberInit(
                    Expression.New(typeof(T)),
                    model.FindEntityType(typeof(T))!.GetProperties().Select(p => Expression.Bind(Of(p), Expression.Property(row, Of(p))))
                ),
                row
            )
            .Compile();
    }

    private static PropertyInfo Of(IProperty column) =>
        column.PropertyInfo ?? throw new InvalidOperationException($"{column.DeclaringType.Name}.{column.Name} has no property.");
}
